// The window: menu and designation line on top, shelf, views and spec sheet, zone strip, checks line.
#pragma once

#include "app/session.hpp"

#include <QMainWindow>
#include <QSettings>
#include <QThreadPool>

class QAction;
class QLabel;
class QMenu;
class QStackedWidget;
class QToolButton;
class QVBoxLayout;

namespace whorl::app {

class CatalogueView;
class ChecksLine;
class Comparison;
class DesignationLine;
class DevelopedView;
class SectionView;
class Shelf;
class SolidView;
class SpecSheet;
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

    DesignationLine* designation() const { return designation_; }
    SectionView* section() const { return section_; }
    DevelopedView* developed() const { return developed_; }
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
    QAction* add(QMenu* menu, const QString& text, const QKeySequence& keys,
                 const std::function<void()>& slot);
    // Lit only where it means something to the piece and its selected zone.
    void only_where(QAction* action, bool (*means_something)(const Piece&, const Zone&));
    void make_menus();
    void fill_job_menu(QMenu* job);
    void fill_edit_menu(QMenu* edit);
    void fill_piece_menu(QMenu* piece);
    void fill_view_menu(QMenu* view);
    void fill_help_menu(QMenu* help);
    QWidget* trial_line();
    void ask_for_new_piece();
    void show_views(); // or the catalogue in their place
    void update_actions();
    void list_springs();
    void make_counterpart(const std::function<Job(const Job&, std::size_t, std::size_t)>& how);
    void update_recent();
    void ask_open();
    bool ask_save();
    void ask_export();
    void ask_section();
    bool import_silhouette_points(const QString& path);
    bool import_groove_section(const QString& path);
    bool import_cam_timing(const QString& path);
    void wear(const OwnSection& section, const QString& done);
    bool may_leave();
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
    QStackedWidget* middle_;
    QWidget* trial_;
    bool catalogue_asked_ = false;
    ChecksLine* checks_;
    Comparison* comparison_;
    QWidget* notice_;
    bool fitted_ = false; // to the screen
    std::vector<std::pair<QAction*, bool (*)(const Piece&, const Zone&)>> guarded_;
    QMenu* springs_;
    QAction *conjugate_, *undo_, *redo_, *save_, *export_, *dark_, *cut_, *together_, *remedy_, *flip_,
        *remove_piece_, *counterpart_, *ring_, *rack_, *to_counterpart_, *run_, *compare_, *block_,
        *own_section_, *keep_section_;
    QMenu* recent_;
    QToolButton *mm_, *inch_, *undo_button_, *redo_button_;
};

} // namespace whorl::app
