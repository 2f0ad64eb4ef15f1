// One text field that understands the trade's designations, completes while typing and says what it didn't
// understand.
#pragma once

#include "app/session.hpp"
#include "model/catalogue.hpp"

#include <QLineEdit>

class QListWidget;

namespace whorl::app {

class DesignationLine final : public QLineEdit {
    Q_OBJECT
public:
    explicit DesignationLine(Session& session, QWidget* parent = nullptr);

    // The next Enter starts a new piece instead of re-specifying the zone.
    void ask_for_new_piece();
    // The next Enter puts the bores of what is written into an end of this piece.
    void ask_for_hole(bool far_end);
    // A line of the catalogue as a new piece on trial, its words to change marked one after another (Tab).
    void fill(const CatalogueLine& line);
    // A search for a spring that bears two loads, to be changed.
    void ask_for_spring();
    void make_it();  // what is on trial, as Enter does
    void leave_it(); // as Esc does

signals:
    void new_piece_left(); // Esc: nothing is asked for any more

public:
    QString hint() const { return hint_; }

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void focusInEvent(QFocusEvent*) override;
    void focusOutEvent(QFocusEvent*) override;
    bool focusNextPrevChild(bool next) override;

private:
    std::string written() const; // the text, decimal commas of the locale read as points
    void show_zone();
    void text_edited();
    void offer();
    void accept(bool new_piece);
    void accepted();
    void show_list();
    void offer_springs(); // what a search finds, one to a row
    void try_row();       // the row one stands on, on trial
    bool searching() const;
    void mark(std::size_t i);
    void move_marks(); // after an edit

    struct Mark {
        int at, length; // in characters
    };
    std::vector<Mark> marks_;
    std::size_t marked_ = 0;
    QString before_edit_;

    Session& session_;
    QListWidget* list_;
    QString hint_;
    bool bad_ = false;
    int bad_at_ = -1;
    bool new_piece_ = false;
    std::optional<bool> hole_at_far_end_;
};

} // namespace whorl::app
