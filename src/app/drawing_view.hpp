// The drawing of the selected piece, on its sheet: every dimension and every field of the title block is typed over where it
// stands, dragged, taken off and brought back. Drawn in a thread of its own, newest order first; the last sheet stays until
// then.
#pragma once

#include "app/canvas.hpp"
#include "drawing/drawing_fields.hpp"

#include <condition_variable>
#include <thread>

namespace whorl::app {

class DrawingView final : public Canvas {
    Q_OBJECT
public:
    DrawingView(Session& session, QWidget* parent = nullptr);
    ~DrawingView() override;

    // The sheet that is shown; none: none was drawn yet.
    const drawing::DrawnSheet* sheet() const { return sheet_ ? &*sheet_ : nullptr; }
    bool waiting() const { return asked_ != drawn_; } // for a newer one
    void fit();                                       // the whole sheet
    QTransform to_page() const;

    // What a field of its title block, or how it is drawn, is changed with; opens where it stands.
    bool edit_drawing_field(const QString& key);
    void add_note(); // of one's own, at the piece's middle, its words to be typed
    void take_off(); // what was touched last
    void all_back();
    void edit_limits(); // of what was touched last: a class or deviations behind its figure
    void set_reference(bool on);
    bool chosen_is_reference() const;
    bool has_dimension() const; // something that was touched has a figure
    bool can_take_off() const;  // something that was touched and is not of the title block

signals:
    void drawn();   // a sheet is there
    void touched(); // another dimension or note, or none

protected:
    void draw(QPainter& p) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    struct Order {
        std::shared_ptr<const Preview> preview;
        Piece piece;
        std::size_t index;
        drawing::SheetSettings settings;
    };
    void order();
    void choose(std::optional<drawing::Link> link);
    void work(const std::stop_token& stop);
    void take(long serial, std::optional<drawing::DrawnSheet> sheet, const QString& why);
    const drawing::Text* text_at(QPointF at) const;
    Spot spot_for(const drawing::Text& text) const;
    QString change(const std::function<Job(const Job&)>& how);
    void drop(QPointF at);
    // Where what is dragged lines up with another text, and the guide that says so.
    QPointF snapped(QPointF by, QList<QLineF>* guides) const;

    std::optional<drawing::DrawnSheet> sheet_;
    QString why_; // there is none
    double zoom_ = 1;
    QPointF off_;                       // of the sheet's middle from the view's, px
    std::optional<drawing::Text> held_; // a text that may be dragged
    QPointF pressed_, now_;
    bool dragged_ = false, panning_ = false;
    std::optional<drawing::Link> chosen_; // touched last

    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Order> next_;
    long asked_ = 0, drawn_ = 0;
    std::jthread worker_;
};

} // namespace whorl::app
