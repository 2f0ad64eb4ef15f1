// What is open: the job and the selection, and what follows from them. History, recovery, the look at pairs,
// running gears and the making of geometry are its parts.
//
// The path of an edit: a view calls edit() → apply() gives a new job → changed() is emitted and every view
// redraws from the resolved values at once → the maker (maker.hpp) makes skin and mesh (previewed()) and
// then, if nothing newer has been asked meanwhile, the kernel solid (verified()).
#pragma once

#include "app/history.hpp"
#include "app/maker.hpp"
#include "app/pair_look.hpp"
#include "app/recovery.hpp"
#include "app/running.hpp"
#include "check/train.hpp"
#include "model/edit.hpp"
#include "model/section_library.hpp"

#include <QObject>
#include <QString>
#include <optional>

namespace whorl::app {

class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);
    ~Session() override;

    const Job& job() const { return job_; }
    const QString& path() const { return path_; }
    bool unsaved() const { return unsaved_; }
    LengthUnit unit() const { return job_.unit; }
    QString shown(double millimetres) const; // in that unit, without symbol
    // What a field of the selected zone holds now, as it can be typed back; of the mesh that is looked at.
    QString text_of(Field field) const;

    std::size_t piece() const { return piece_; }
    std::size_t zone() const { return zone_; }
    bool has_piece() const { return piece_ < job_.pieces.size(); }
    void select(std::size_t piece, std::size_t zone);
    // Selects one zone of this pair and looks at it in this pair, when it is in several.
    void select_pair(std::size_t pair, ZoneRef zone);
    // The zone that says what a piece is: its first threaded one, else its first.
    std::size_t telling_zone(std::size_t piece) const;

    // The selected piece, resolved; nullptr when the job is empty.
    const ResolvedPiece* resolved() const { return resolved_ ? &*resolved_ : nullptr; }
    const ResolvedZone* resolved_zone() const;
    const std::vector<Finding>& findings() const { return findings_; } // of the selected piece

    // How the selected zone goes together with those it is paired with.
    const std::optional<ShownFit>& fit() const { return look_.fit; }
    const std::optional<Together>& together() const { return look_.together; }
    const std::optional<ShownBeside>& beside() const { return look_.beside; }
    const std::optional<ShownMesh>& mesh() const { return look_.mesh; }
    const std::optional<ShownFollower>& follower() const { return look_.follower; }
    const std::optional<ZoneRef>& other_of_pair() const { return look_.other; }
    const Train& train() const { return train_; }   // that the selected piece drives; empty without a mesh
    double roll() const { return running_.roll(); } // see running.hpp
    void set_roll(double roll) { running_.set_roll(roll); }
    bool running() const { return running_.on(); }
    void set_running(bool on);

    // Each gives an empty string, or the sentence why nothing changed (and where: see error_position()).
    QString edit(Field field, const QString& text);
    QString edit(const Edit& edit);
    QString respec(const Designation& designation); // the selected zone, or a new piece in an empty job
    QString change(const std::function<Job(const Job&)>& how);
    QString apply_remedy(const Remedy& remedy);
    std::size_t error_position() const { return error_position_; }

    // Between begin_live and end_live edits make one step of history; cancel_live goes back.
    void begin_live();
    void end_live();
    void cancel_live();

    // A piece on trial: all views show it, but it is not in the job until it is kept. Each try takes the
    // place of the one before; dropping leaves everything as it was, the selection too. Gives an empty string
    // or the sentence why the piece can't be made. Any other change keeps it first; undo, saving, opening and
    // a new job drop it.
    QString try_piece(const Piece& piece);
    bool trying() const { return trying_; }
    void keep_trial();
    void drop_trial();

    bool can_undo() const { return history_.can_undo(); }
    bool can_redo() const { return history_.can_redo(); }
    void undo();
    void redo();

    void set_unit(LengthUnit unit);

    void new_job();
    void open(const QString& path); // throws FileError, the open job untouched
    void save(const QString& path); // throws FileError

    static QString recovery_path() { return Recovery::path(); }
    void keep_for_recovery() { recovery_.keep(); } // now, if there is unsaved work
    bool has_recovery() const { return recovery_.exists(); }
    void recover(); // throws FileError
    void discard_recovery() { recovery_.discard(); }

    std::shared_ptr<const Preview> preview() const { return maker_.preview(); }
    // Of the piece together() is about, a moment after preview(); empty when there is none.
    std::shared_ptr<const Preview> counterpart_preview() const { return maker_.counterpart_preview(); }
    std::shared_ptr<const VerifiedSolid> solid() const { return maker_.solid(); }
    bool building() const { return maker_.busy(); }

    // Sections of one's own that can be named: the job's, then those of the personal library.
    std::vector<OwnSection> sections() const { return known_sections(job_, library_.sections); }
    const std::vector<std::string>& library_problems() const { return library_.problems; }
    // Keeps a section in the library for other jobs; gives an empty string or the sentence why not.
    QString keep_in_library(const OwnSection& section);

    // A row or dimension the pointer is over, by value key; shared so that views light it together.
    void hover(const QString& key);
    const QString& hovered() const { return hovered_; }

signals:
    void changed();   // the job or the selection
    void previewed(); // a new preview is there
    void counterpart_previewed();
    void verified(); // the kernel solid of the preview is there
    void hover_changed();
    void saved_changed();
    void rolled(); // the gears have turned, or they run or stop

private:
    QString guarded(const std::function<void()>& work);
    void set_job(Job job, bool remember);
    void go_to(const std::optional<Snapshot>& there);
    void start_with(Job job, const QString& path, bool unsaved);
    Snapshot now() const { return {job_, piece_, zone_}; }
    void refresh();
    void order();

    Job job_;
    QString path_;
    bool unsaved_ = false;
    std::size_t piece_ = 0, zone_ = 0;
    std::optional<ResolvedPiece> resolved_;
    std::vector<Finding> findings_;
    PairLook look_;
    std::size_t looked_at_pair_ = 0;
    Train train_;
    bool trying_ = false, unsaved_before_trial_ = false;
    std::size_t error_position_ = 0;
    QString hovered_;
    SectionLibrary library_;
    History history_;
    Recovery recovery_;
    Running running_;
    Maker maker_;
};

} // namespace whorl::app
