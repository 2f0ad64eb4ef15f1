// Randomised specifications for property tests: always the same for the same seed.
#pragma once

#include "model/edit.hpp"
#include "model/resolve.hpp"
#include "quantity/expression.hpp"
#include "standard/iso_metric.hpp"

#include <random>
#include <string>

namespace whorl::test {

class RandomPiece {
public:
    explicit RandomPiece(unsigned seed) : random_(seed) {}

    double between(double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random_);
    }
    int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }
    bool chance(double p) { return between(0, 1) < p; }

    EndTreatment end(double outer_diameter, double pitch, bool threaded) {
        EndTreatment e;
        const int kind = whole(0, threaded ? 4 : 1);
        if (kind == 1 || kind == 2) {
            e.kind = EndKind::chamfer;
            e.angle.text = number_text(between(25, 75), 3);
            if (chance(0.5) || !threaded)
                e.diameter.text = number_text(outer_diameter - between(0.05, 1.4) * pitch, 4);
        } else if (kind > 2) {
            e.kind = EndKind::run_out;
            e.turns.text = number_text(between(0.1, 1.6), 3);
        }
        return e;
    }

    Zone thread_zone() {
        Zone z;
        ThreadForm t;
        const auto& series = standard::iso_metric_series();
        const auto& listed = series[static_cast<std::size_t>(whole(0, static_cast<int>(series.size()) - 1))];
        double d = in_mm(listed.diameter), p = in_mm(listed.pitch);
        if (chance(0.3)) d *= between(0.9, 1.1);
        if (chance(0.3)) p *= between(0.7, 1.2);
        t.pitch.text = number_text(p, 4);
        t.hand = chance(0.5) ? Hand::left : Hand::right;
        t.starts = chance(0.5) ? 1 : whole(2, 6);
        t.modelled_at = static_cast<ModelledAt>(whole(0, 3));
        const char* classes[]{"6g", "6h", "6e", "4h", "8g"};
        t.tolerance_class = classes[whole(0, 4)];
        if (chance(0.15)) t.depth.text = number_text(p * between(0.2, 0.55), 4);
        z.diameter.text = number_text(d, 4);
        z.thread = t;
        z.near_end = end(d, p, true);
        z.far_end = end(d, p, true);
        z.length.text = number_text(p * t.starts * between(0.4, 9) + p * between(0.5, 4), 4);
        return z;
    }

    Zone plain_zone(double near_diameter) {
        Zone z;
        const double d = near_diameter * (chance(0.2) ? 1.0 : between(0.7, 1.4));
        z.diameter.text = number_text(d, 4);
        z.length.text = number_text(d * between(0.3, 2), 4);
        z.near_end = end(d, d * 0.1, false);
        z.far_end = end(d, d * 0.1, false);
        return z;
    }

    Piece piece() {
        Piece p;
        p.name = "random";
        p.zones.push_back(thread_zone());
        const double d = std::stod(p.zones[0].diameter.text);
        const int more = whole(0, 3);
        for (int i = 0; i < more; ++i) {
            Zone z = chance(0.7) ? plain_zone(d) : thread_zone();
            if (z.thread) z.diameter.text = number_text(d * between(0.8, 1.1), 4);
            if (chance(0.5))
                p.zones.push_back(z);
            else
                p.zones.insert(p.zones.begin(), z);
        }
        return p;
    }

private:
    std::mt19937 random_;
};

} // namespace whorl::test
