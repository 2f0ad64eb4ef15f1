// What the spec sheet says about the selected zone, as plain rows in groups: asked, follows, fit or mesh,
// shop, piece, named values. What a form adds stands with its views (forms/).
#pragma once

#include "app/inline_editor.hpp"
#include "form/resolved_value.hpp"

#include <vector>

namespace whorl::app {

struct SheetRow {
    enum class Kind { asked, follows, note, add } kind = Kind::follows;
    QString label;
    QString unit = {};  // stands behind the value
    QString value = {}; // or its limits
    QString least = {}, most = {};
    QString source = {};
    bool overridden = false;               // set by the user instead of by the standard
    std::optional<Field> handed_back = {}; // by clearing this field
    bool bad = false;                      // a note that something stops
    Input input = {};

    bool same_place(const SheetRow& o) const { return input.key == o.input.key && kind == o.kind; }
    QString spoken() const; // label, value and unit, source
    QString copied() const; // value and unit
};

struct SheetGroup {
    QString key, title;
    bool limits = false; // columns "min" and "max"
    std::vector<SheetRow> rows;
};

struct Sheet {
    QString title, detail;
    std::vector<SheetGroup> groups; // empty: there is no piece
};

// What the sheet's own fields hold, which are no part of the job.
struct SheetMemory {
    std::optional<double>
        thickness_at; // the diameter a gear's tooth is measured at, mm; none: its pitch circle
    std::function<void()> changed;
};

// Puts the rows together; handed to the forms' views.
class SheetBuilder {
public:
    SheetBuilder(Session& session, SheetMemory& memory) : session_(session), memory_(memory) {}

    Session& session() const { return session_; }
    SheetMemory& memory() const { return memory_; }
    QString shown(double millimetres) const { return session_.shown(millimetres); }
    QString unit() const;

    void group(const QString& key, const QString& title, bool limits = false);
    SheetRow& asked(const QString& label, std::optional<Field> field, const QString& value,
                    const QString& unit, const QString& key, const QString& tip = {});
    SheetRow& follows(const ResolvedValue& value);
    // "Follows", and "In the shop" those with a key in `shop`; those in `said` are asked for above.
    void follow_all(const std::vector<ResolvedValue>& values, const QStringList& said,
                    const QStringList& shop, bool limits = false);
    void note(const QString& sentence, bool bad);

    std::vector<SheetGroup> take() { return std::move(groups_); }

private:
    Session& session_;
    SheetMemory& memory_;
    std::vector<SheetGroup> groups_;
};

Sheet sheet_of(Session& session, SheetMemory& memory);

} // namespace whorl::app
