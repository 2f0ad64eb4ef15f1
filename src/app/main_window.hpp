// The window: menu and designation line on top, shelf, views and spec sheet, zone strip, checks line.
#pragma once

#include "app/session.hpp"

#include <QMainWindow>
#include <QSettings>
#include <QThreadPool>
#include <stop_token>

class QAction;
class QLabel;
class QMenu;
class QStackedWidget;
class QTextEdit;
class QToolButton;
class QVBoxLayout;

namespace whorl::app {

struct Action;
class CatalogueView;
class ChecksLine;
class Comparison;
class DesignationLine;
class DevelopedView;
class DrawingView;
class SectionView;
class Shelf;
class SolidView;
class HandOnView;
class SpecSheet;
class TogetherView;
class ZoneStrip;

class MainWindow final : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(Session& session);

    bool open(const QString& path); // says why not in the checks line, and keeps the open job
    bool save_to(const QString& path);
    // Writes .step, .stl or .svg in the background; exported() follows, and the checks line says how it went.
    void export_piece(const QString& path);
    // An outline as a section of one's own, worn by the selected thread or by a new bar.
    void import_outline(const QString& path);
    // Another source's gear laid over the selected one.
    void compare_with(const QString& path);
    void set_dark(bool dark);

    // The drawing, or all pieces together, in the place of the views.
    void show_drawing(bool shown);
    bool drawing_shown() const;
    void show_together(bool shown);
    void show_hand_on(bool shown); // one step to files
    bool together_shown() const;
    // The next piece that is selected, wherever that is done, makes a pair with the zone selected now.
    void ask_pair();
    bool pairing() const { return pairing_.has_value(); }
    void leave_pairing();
    void unpair(); // the selected piece and the one it is looked at with
    // Writes .pdf, .svg, .dxf or .png in the background: of the selected piece, or all as one PDF; exported() follows.
    void export_drawing(const QString& path);
    void export_all_drawings(const QString& path);
    void stop_writing(); // all drawings
    bool writing() const { return writing_.stop_possible() && !writing_.stop_requested() && writing_on_; }
    void ask_export_drawing(bool all);
    void print_drawing();

    // What actions do, with their questions (actions.hpp).
    void ask_for_new_piece();
    void ask_for_spring(); // from loads
    void ask_open();
    bool ask_save();
    void ask_export();
    void ask_section();
    bool may_leave(); // unsaved changes are saved or given up
    void make_counterpart(const std::function<Job(const Job&, std::size_t, std::size_t)>& how);
    // On the selected thread, or on a new bar; `done` is said then.
    void wear(const OwnSection& section, const QString& done);
    void show_keys();
    QStringList recent() const { return settings_.value("recent").toStringList(); }

    Session& session() const { return session_; }
    DesignationLine* designation() const { return designation_; }
    SectionView* section() const { return section_; }
    DevelopedView* developed() const { return developed_; }
    DrawingView* drawing() const { return drawing_; }
    TogetherView* together() const { return together_; }
    HandOnView* hand_on() const { return hand_on_; }
    SpecSheet* sheet() const { return sheet_; }
    ChecksLine* checks() const { return checks_; }
    SolidView* solid() const { return solid_; }
    ZoneStrip* strip() const { return strip_; }
    Shelf* shelf() const { return shelf_; }
    CatalogueView* catalogue() const { return catalogue_; }
    Comparison* comparison() const { return comparison_; }

signals:
    void exported(bool done);

protected:
    void closeEvent(QCloseEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void showEvent(QShowEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;

private:
    QVBoxLayout* lay_out();
    QWidget* top_line();
    void connect_parts();
    void make_menus();
    QWidget* trial_line();
    void show_views(); // or the catalogue in their place
    void update_actions();
    bool import_silhouette_points(const QString& path);
    bool import_groove_section(const QString& path);
    bool import_cam_timing(const QString& path);
    void offer_recovery();
    void say_library_problems(QVBoxLayout* column);

    Session& session_;
    QThreadPool exports_; // waits for what is being written when the window goes
    QSettings settings_;
    DesignationLine* designation_;
    Shelf* shelf_;
    SolidView* solid_;
    SectionView* section_;
    DevelopedView* developed_;
    ZoneStrip* strip_;
    SpecSheet* sheet_;
    CatalogueView* catalogue_;
    DrawingView* drawing_;
    TogetherView* together_;
    HandOnView* hand_on_;
    QStackedWidget* middle_;
    QWidget* trial_;
    bool catalogue_asked_ = false;
    enum class Asked { views, drawing, together, hand_on } asked_ = Asked::views;
    Asked before_hand_on_ = Asked::views;
    std::optional<ZoneRef> pairing_; // what the next selected piece is paired with
    void pair_with_selected();
    std::stop_source writing_;
    bool writing_on_ = false;
    ChecksLine* checks_;
    Comparison* comparison_;
    QWidget* notice_;
    bool fitted_ = false; // to the screen
    std::vector<std::pair<QAction*, const Action*>> actions_;
    QTextEdit* keys_ = nullptr; // that F1 lists
    QToolButton *together_button_, *drawing_button_, *mm_, *inch_, *undo_button_, *redo_button_;
};

} // namespace whorl::app
