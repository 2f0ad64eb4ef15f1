// A drawn view in which the texts of dimensions are the input: click one, type, Tab to the next, Esc steps
// back. What is typed shows at once in all views, as long as it can be understood; Enter keeps it, as one
// step of history.
#pragma once

#include "app/inline_editor.hpp"
#include "app/theme.hpp"

#include <QLineF>
#include <QWidget>
#include <functional>
#include <optional>

namespace whorl::app {

class Canvas : public QWidget {
    Q_OBJECT
public:
    Canvas(Session& session, QWidget* parent);

    // Opens the editor on the first text for this field; false if there is none.
    bool edit_field(Field field);
    bool editing() const { return editor_->is_open(); }

    // A value that can be read, lit, and perhaps typed over, and where it stands.
    struct Spot : Input {
        QRectF rect;
        QLineF line = {}; // of the dimension it stands at; none: of a text alone
    };
    const std::vector<Spot>& spots() const { return spots_; }

    // What is dragged on a drawing, with live geometry, as one step of history; Shift for a finer grain, Esc puts it
    // back. The last one touched is chosen: arrow keys move it, Delete takes it away where it can go.
    struct Knob {
        QString key;
        QPointF at;
        bool ring = false; // else a square
        QString tip = {};
        std::function<void(QPointF to, bool fine)> drag = {};
        std::function<void(int right, int up)> nudge = {};
        std::function<void()> remove = {};
    };
    const std::vector<Knob>& knobs() const { return knobs_; }
    void add_knob(QPainter& p, Knob knob);
    const QString& chosen_knob() const { return chosen_; } // its key; empty: none
    bool dragging() const { return held_knob_.has_value(); }
    // A scale that stands still while a knob is dragged.
    double steady_scale(double fresh) { return dragging() ? scale_ : scale_ = fresh; }

    Session& session() const { return session_; }

    // For what forms draw on it.
    void add_spot(Spot spot) { spots_.push_back(std::move(spot)); }
    // Text on a paper-coloured ground with its spot; gives the rectangle it covers.
    QRectF dimension_text(QPainter& p, QPointF centre, const QString& text, Spot spot, double angle = 0);
    // A dimension line from a to b with its text, lit with its spot; from each edge a witness line, if it lies off.
    struct Edges {
        QPointF a, b;
    };
    QRectF dimension(QPainter& p, QPointF a, QPointF b, Edges edges, QPointF text_at, const QString& text,
                     Spot spot, double text_angle = 0);
    void ink(QPainter& p, const QString& key) const; // the pen of a dimension: lit while its value is
    // A value's spot; with a field it can be typed over, beginning with what the field holds now.
    Spot spot_of(const QString& key, std::optional<Field> field, const QString& tip) const;
    static QString turns_text(double turns); // "1 turn", "0.5 turns"
    QString shown(double millimetres) const { return session_.shown(millimetres); }
    void draw_title(QPainter& p, const QString& title, const QString& detail);
    void draw_hint(QPainter& p, const QString& sentence); // what will stand here, while there is nothing

protected:
    virtual void draw(QPainter& p) = 0; // called with antialiasing on; adds spots

    void paintEvent(QPaintEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;
    bool event(QEvent*) override;

    Session& session_;

    const Spot* spot_at(QPointF at) const;
    void open_editor(std::size_t spot);
    void open_editor(const Spot& spot, QRectF where); // of something that is none of the spots
    bool keep_typed(); // what is typed now; false: it was refused and stays open

private:
    void step(bool forward);

    const Knob* knob_at(QPointF at) const;
    void leave_knobs();

    std::vector<Knob> knobs_;
    std::optional<Knob> held_knob_;
    QString chosen_;
    std::pair<std::size_t, std::size_t> knobs_of_{}; // piece and zone
    double scale_ = 1;
    std::vector<Spot> spots_;
    InlineEditor* editor_;
    std::size_t edited_ = 0;
};

} // namespace whorl::app
