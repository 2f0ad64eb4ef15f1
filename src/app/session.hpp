// What is open: the job, its history, the selection, and the geometry made of it in the background.
//
// The path of an edit: a view calls edit() → apply() gives a new job → changed() is emitted and every view
// redraws from the resolved values at once → a worker thread makes skin and mesh (previewed()) and then, if
// nothing newer has been asked meanwhile, the kernel solid (verified()).
#pragma once

#include "build/build.hpp"
#include "check/mesh_check.hpp"
#include "check/train.hpp"
#include "model/edit.hpp"
#include "model/section_library.hpp"
#include "pair/mating.hpp"

#include <QObject>
#include <QString>
#include <QTimer>
#include <condition_variable>
#include <optional>
#include <thread>

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

    // The selected zone's counterpart, where it is part of a pair.
    struct ShownFit {
        ZoneRef there;
        ResolvedThread counterpart;
        Fit fit;
        bool follows; // the second zone of the pair follows the first
    };
    const std::optional<ShownFit>& fit() const { return fit_; }

    // The selected piece put together with the one its selected zone is paired with, or else the first that
    // any of its zones is.
    struct Together {
        ZoneRef here, there;
        Mating mating;
    };
    const std::optional<Together>& together() const { return together_; }

    // The selected toothed zone in mesh with the one it is paired with. The first gear is the selected one,
    // unless that is a ring or a rack: then `second_first` says so.
    struct ShownMesh : PairMesh {
        std::size_t pair = 0;
        ZoneRef here, there;
        ResolvedZone here_zone, there_zone;
        bool follows = false;
    };
    const std::optional<ShownMesh>& mesh() const { return mesh_; }
    const Train& train() const { return train_; } // that the selected piece drives; empty without a mesh
    // How far the first gear, or a single one, has turned (rad); running turns it on by itself, on a rack
    // from one of its ends to the other and back. At 0 a gear stands in the middle of its rack.
    double roll() const { return roll_; }
    void set_roll(double roll);
    bool running() const { return run_timer_.isActive(); }
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

    bool can_undo() const { return !undo_.empty(); }
    bool can_redo() const { return !redo_.empty(); }
    void undo();
    void redo();

    void set_unit(LengthUnit unit);

    void new_job();
    void open(const QString& path); // throws FileError, the open job untouched
    void save(const QString& path); // throws FileError

    // Work is kept in a recovery file while it is unsaved. `recovery_path` is per user.
    static QString recovery_path();
    void keep_for_recovery(); // now, if there is unsaved work; done by itself a moment after each change
    bool has_recovery() const;
    void recover(); // throws FileError
    void discard_recovery();

    std::shared_ptr<const Preview> preview() const { return preview_; }
    // Of the piece together() is about, a moment after preview(); empty when there is none.
    std::shared_ptr<const Preview> counterpart_preview() const { return counterpart_preview_; }
    std::shared_ptr<const VerifiedSolid> solid() const { return solid_; }
    bool building() const { return building_; }

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
    struct Order {
        Piece piece;
        std::size_t index;
        std::optional<Piece> counterpart;
        std::size_t counterpart_index;
        Names names;
        LengthUnit unit;
        long serial;
    };
    struct Snapshot {
        Job job;
        std::size_t piece, zone;
    };

    QString guarded(const std::function<void()>& work);
    void set_job(Job job, bool remember);
    void travel(std::vector<Snapshot>& from, std::vector<Snapshot>& to); // a step of history
    void refresh();
    void order();
    void retire_solid();
    void resolve_pairs();
    void resolve_mesh();
    void work(std::stop_token stop);

    Job job_;
    QString path_;
    bool unsaved_ = false;
    std::size_t piece_ = 0, zone_ = 0;
    std::optional<ResolvedPiece> resolved_;
    std::vector<Finding> findings_;
    std::optional<ShownFit> fit_;
    std::optional<Together> together_;
    std::size_t looked_at_pair_ = 0;
    bool run_back_ = false;
    std::optional<ShownMesh> mesh_;
    Train train_;
    double roll_ = 0;
    QTimer run_timer_;
    std::vector<Snapshot> undo_, redo_;
    bool live_ = false, trying_ = false, unsaved_before_trial_ = false;
    std::optional<Snapshot> live_start_;
    std::size_t error_position_ = 0;
    QString hovered_;
    SectionLibrary library_;
    QTimer recovery_timer_;

    std::shared_ptr<const Preview> preview_, counterpart_preview_;
    std::shared_ptr<const VerifiedSolid> solid_;
    bool building_ = false;

    PreviewCache cache_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Order> order_;
    std::vector<std::shared_ptr<const VerifiedSolid>> retired_;
    std::stop_source current_; // cancels the solid being made
    long serial_ = 0;
    std::jthread worker_;
};

} // namespace whorl::app
