// Previews of all pieces of a job, made on all cores in the background, those of the newest job only; what has not changed is
// kept. And which of them stand in each other, looked for once all are there.
#pragma once

#include "build/build.hpp"
#include "together/clash.hpp"

#include <QObject>
#include <QThreadPool>
#include <atomic>

namespace whorl::app {

class JobMaker final : public QObject {
    Q_OBJECT
public:
    explicit JobMaker(QObject* parent = nullptr);
    ~JobMaker() override;

    void order(const Job& job);
    // Of that job's pieces, in their order; none yet: null. One that can't be made is not made().
    const std::vector<std::shared_ptr<const Preview>>& previews() const { return previews_; }
    const std::vector<Box>& boxes() const { return boxes_; } // about them; of what is not made, of no size
    std::size_t missing() const { return missing_; }

    // Once none is missing: clashed() follows, unless something newer is asked for; the same again is not looked for again.
    void look_for_clashes(const Job& job, const Arrangement& all);
    const std::optional<std::vector<Clash>>& clashes() const { return clashes_; } // none: not looked at yet

signals:
    void made(); // another one, or several
    void clashed();

private:
    struct Asked { // what a preview was made from
        Piece piece;
        LengthUnit unit = LengthUnit::millimetre;
    };
    void take(std::size_t piece, long serial, std::shared_ptr<const Preview> made, const Box& box);

    std::vector<Asked> asked_;
    Names names_;
    std::vector<std::shared_ptr<const Preview>> previews_;
    std::vector<Box> boxes_;
    std::vector<std::shared_ptr<const ClashBody>> bodies_; // of the previews, made when first looked at
    std::size_t missing_ = 0;
    std::optional<std::vector<Clash>> clashes_;
    std::atomic<long> serial_ = 0; // of the newest order
    long looked_ = 0;
    std::vector<Standing> looked_at_; // where all stood
    std::vector<Pair> looked_pairs_;
    std::stop_source looking_;
    QThreadPool pool_;
};

} // namespace whorl::app
