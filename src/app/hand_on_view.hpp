// One step to files: what, in which formats, where; every file that will be written is listed before, with what will not be and
// why. Written in the background, with progress, and stopped at will. Formats, folder and fineness are remembered.
#pragma once

#include "app/session.hpp"
#include "exchange/hand_on.hpp"

#include <QSettings>
#include <QThreadPool>
#include <QWidget>
#include <atomic>

class QButtonGroup;
class QCheckBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QProgressBar;
class QPushButton;
class QTreeWidget;

namespace whorl::app {

class HandOnView final : public QWidget {
    Q_OBJECT
public:
    explicit HandOnView(Session& session, QWidget* parent = nullptr);
    ~HandOnView() override;

    enum class What { piece, group, all, chosen };
    void set_what(What what);
    void set_together(bool together);
    void set_format(const std::string& name, bool on);
    void set_folder(const QString& folder);
    // The files that will be written; empty while they are looked for.
    const std::vector<PlannedFile>& plan() const { return plan_; }
    bool planning() const { return planning_; }
    bool writing() const { return writing_; }
    void write();
    void stop();
    QString result() const; // what was written last, in one line

signals:
    void planned();
    void written(bool all);
    void left(); // back to the views

protected:
    void showEvent(QShowEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QWidget* choices();
    QWidget* files();
    HandOn asked() const;
    void refresh_words();
    void look(); // for what will be written
    void show_plan(std::vector<PlannedFile> plan, const QString& why);
    void finish(const HandedOn& done, const QString& why);

    Session& session_;
    QSettings settings_;
    QButtonGroup* what_;
    QListWidget* pieces_;
    QCheckBox* together_;
    std::vector<QCheckBox*> formats_; // of formats()
    QLineEdit *folder_, *chord_;
    QLabel *count_, *result_;
    QTreeWidget* list_;
    QPushButton *write_, *stop_, *open_;
    QProgressBar* progress_;
    std::vector<PlannedFile> plan_;
    bool planning_ = false, writing_ = false, filling_ = false;
    std::atomic<long> looked_ = 0;
    std::stop_source stopping_;
    QThreadPool pool_; // waits for what is being written when the window goes
};

} // namespace whorl::app
