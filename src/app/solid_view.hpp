// The solid, steered by its axis: drag sideways rolls it, up and down tilts it, the wheel zooms at the
// pointer. A piece that has a counterpart can be shown with it; dragging the counterpart screws it along.
//
// Draws our own triangulation with OpenGL 3.3. The lengthwise cut is a half taken away, its face hatched as
// ISO 128-50 asks for.
#pragma once

#include "app/camera.hpp"
#include "app/offscreen_gl.hpp"
#include "app/session.hpp"
#include "app/solid_body.hpp"

#include <QWidget>
#include <optional>

namespace whorl::app {

class SolidView final : public QWidget, protected QOpenGLFunctions_3_3_Core {
    Q_OBJECT
public:
    explicit SolidView(Session& session, QWidget* parent = nullptr);
    ~SolidView() override;

    void look(Look look);
    void set_cut(bool on);
    bool cut() const { return cut_; }
    void turn_cut(double degrees);
    // The counterpart beside the piece, where there is one.
    void set_together(bool on);
    bool together() const { return together_; }
    double travel() const; // mm, see Mating
    void screw_to(double travel);
    long frames() const { return frames_; } // in which a solid was drawn

signals:
    void cut_changed();
    void together_changed();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    // What the view is fitted to: a stretch of the axis and the widest radius around it, mm.
    struct Extent {
        double from = 0, to = 1, radius = 1;
        double aside = 0; // the middle's distance from the axis, along x
        double aside_y = 0;
    };
    struct Hit {
        bool counterpart = false;
        std::size_t zone = 0;
    };
    Extent extent() const;
    static Extent extent_of_bent(const ResolvedPiece& piece);
    static Extent extent_of_box(const std::array<double, 3>& low, const std::array<double, 3>& high);
    Extent extent_with_follower(Extent piece) const;
    Extent extent_with_beside(Extent piece) const;
    void fit();
    QMatrix4x4 projection() const;
    Scene scene() const;
    QMatrix4x4 centred() const;           // orientation about the middle of the extent
    QMatrix4x4 counterpart_place() const; // the counterpart's axes to the piece's
    QMatrix4x4 piece_place() const;       // gears turn
    bool gears_shown() const;
    bool pair_shown() const;
    bool beside_shown() const;   // what nothing screws or turns on
    bool follower_shown() const; // on its cam: while it runs or stands turned, and with the counterpart
    bool counterpart_shown() const {
        return pair_shown() || gears_shown() || follower_shown() || beside_shown();
    }
    std::optional<Hit> hit_at(QPointF at) const;
    void keep_place();
    void screw_by(double turns);
    void start_gl();
    QImage drawn();
    void draw_overlay(QPainter& p); // see solid_overlay.cpp
    void draw_words(QPainter& p);
    void draw_last_good(QPainter& p) const;
    void draw_mating(QPainter& p) const;
    void draw_mesh_words(QPainter& p, const ShownMesh& mesh) const;
    void draw_winding(QPainter& p, const ThreadSection& s) const;
    QString mating_text() const;

    Session& session_;
    std::size_t shown_piece_ = 0;
    OffscreenGl gl_;
    std::optional<BodyPrograms> programs_;
    SolidBody piece_, counterpart_;
    bool started_ = false, ready_ = false; // whether OpenGL was asked for, and is there

    bool together_ = false;
    std::optional<double> travel_;             // none: as far as is usual
    std::optional<Together> placed_;           // what `travel_` is about
    bool swapped_ = false;                     // the view went over to the counterpart: the picture stays
    std::optional<Extent> gripped_extent_;     // while the counterpart is dragged
    double gripped_at_ = 0, gripped_from_ = 0; // where the hand is, also beyond the ends

    Camera camera_;
    bool cut_ = false;
    double cut_direction() const;
    double cut_angle_ = 0; // degrees
    QPointF pressed_, last_;
    bool moved_ = false;
    long frames_ = 0;
    std::array<QRectF, 3> words_;
    QRectF cut_word_, together_word_;
};

} // namespace whorl::app
