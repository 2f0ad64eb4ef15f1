// Other sources' gears and racks over ours: a deviation, or a sentence. The first byte chooses the format.
#include "exchange/rack_compare.hpp"
#include "sentence.hpp"

#include <cmath>

using namespace whorl;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    if (size == 0) return 0;
    static const ResolvedGear gear = [] {
        GearSpec s;
        s.teeth = 9;
        return resolve_gear(s);
    }();
    static const ResolvedRack rack = [] {
        RackSpec s;
        s.teeth = 9;
        return resolve_rack(s);
    }();
    const std::string text(reinterpret_cast<const char*>(data) + 1, size - 1);
    const auto tried = [&](auto&& compared) {
        try {
            fuzz::require(std::isfinite(compared()), "a finite deviation");
        } catch (const InputError& e) {
            fuzz::require_sentence(e, size + 1000);
        }
    };
    const auto pieces = [&]() -> std::vector<OutlinePiece> {
        switch (data[0] % 4) {
        case 0:
            return cut_at_half_height(triangles_of_stl(text));
        case 1:
            return pieces_from_dxf(text);
        default: {
            const auto points = data[0] % 4 == 2 ? outline_from_csv(text) : closed_outline_from_svg(text);
            std::vector<OutlinePiece> p;
            for (std::size_t i = 0; i + 1 < points.size(); ++i)
                p.push_back({points[i], points[i + 1]});
            return p;
        }
        }
    };
    tried([&] { return compare_outline(gear, pieces()).root_mean_square; });
    tried([&] { return compare_outline(rack, pieces()).root_mean_square; });
    return 0;
}
