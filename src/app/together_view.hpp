// The whole job as it stands: turned, cut, run. A click goes to the piece, a double click to its views; what is selected says
// where it stands in a number that is typed over or dragged. Pieces that stand in each other are named.
#pragma once

#include "app/camera.hpp"
#include "app/inline_editor.hpp"
#include "app/job_maker.hpp"
#include "app/offscreen_gl.hpp"
#include "app/solid_body.hpp"
#include "model/free_place.hpp"

#include <QTimer>
#include <QWidget>
#include <array>

namespace whorl::app {

class TogetherView final : public QWidget, protected QOpenGLFunctions_3_3_Core {
    Q_OBJECT
public:
    explicit TogetherView(Session& session, QWidget* parent = nullptr);
    ~TogetherView() override;

    void look(Look look);
    void set_cut(bool on);
    bool cut() const { return cut_; }
    void turn_cut(double degrees);

    const Arrangement& arrangement() const { return all_; }
    bool waiting() const {
        return maker_.missing() > 0 || behind_;
    } // for pieces that are being made or drawn first
    const std::optional<std::vector<Clash>>& clashes() const { return maker_.clashes(); }
    long frames() const { return frames_; }
    double pixel() const { return camera_.pixel(); } // mm of one
    std::optional<std::size_t> piece_at(QPointF at) const;
    // The field of where the selected piece stands; false if nothing is free there.
    bool edit_stand();

signals:
    void cut_changed();
    void settled(); // every piece is there
    void gone_in(); // to the views of the selected piece
    void clashed();

protected:
    void paintEvent(QPaintEvent*) override;
    void showEvent(QShowEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Word { // that can be clicked
        QRectF at;
        std::function<void()> does;
    };
    // What is dragged: the number of a pair, or the place of a piece that no pair holds.
    struct Grip {
        std::optional<std::size_t> pair;
        double from = 0; // the number, mm or rad
        PairRange range;
        QPointF way;     // px the piece goes for one of it
        QPointF dragged; // px
        FreePlace place;
        Box box; // about all, which stands still under the hand
    };
    void refresh();
    void arrange();
    Run run_now() const;
    Box box() const;
    Scene scene() const;
    void start_gl();
    QImage drawn();
    void draw_overlay(QPainter& p);
    void draw_words(QPainter& p);
    double draw_stand(QPainter& p, double baseline);
    void draw_clashes(QPainter& p);
    Input stand_input() const; // of the selected piece; nothing that can be typed: none is free
    QString stand_text() const;
    void grip();
    void drag_grip(QPointF by, bool fine);

    Session& session_;
    JobMaker maker_;
    InlineEditor* editor_;
    OffscreenGl gl_;
    std::optional<BodyPrograms> programs_;
    std::vector<std::unique_ptr<SolidBody>> bodies_;
    bool started_ = false, ready_ = false, stale_ = true;

    std::vector<ResolvedPiece> pieces_;
    std::vector<Box> boxes_;  // own
    Arrangement still_, all_; // as it is kept, and as it runs
    QString trouble_;
    Train train_; // that what is selected drives

    Camera camera_;
    bool cut_ = false;
    double cut_angle_ = 0, cut_shift_ = 0; // degrees, mm from the middle
    QPointF pressed_, last_;
    bool moved_ = false;
    std::optional<Grip> grip_;
    bool behind_ = true;  // pieces that are there wait for the next frame
    bool moving_ = false; // drawn fast, until it has stood still for a moment
    QTimer still_timer_;
    void move();
    std::vector<Word> words_;
    std::array<QRectF, 3> look_words_;
    QRectF stand_at_;
    long frames_ = 0;
};

} // namespace whorl::app
