// A dog point: the pin of a set screw that goes into a hole or a groove, ISO 4753 LD.
#include "model/ends/ends.hpp"
#include "model/resolve_zone.hpp"
#include "quantity/trimmed.hpp"
#include "standard/fastener.hpp"

namespace whorl {
namespace {

// Ø dp as set screws have it (ISO 4026, 4028), and the length z2 of a long dog, half the thread's diameter.
struct Dog {
    Length diameter, length;
};
std::optional<Dog> usual_dog(const ResolvedZone& z) {
    if (!z.thread() || z.thread()->spec.family != ThreadFamily::iso_metric) return {};
    const auto* size = standard::fastener_size("set_screw", z.thread()->spec.diameter);
    if (!size) return {};
    return Dog{size->point, size->thread / 2};
}

// Ø x LENGTH, or nothing.
void read_dog(EndTreatment& e, const EndWords& w) {
    std::string both = w.first + " " + w.rest;
    const auto times = both.find_first_of("xX");
    const std::string diameter(trimmed(both.substr(0, times))),
        length(times == both.npos ? std::string() : std::string(trimmed(both.substr(times + 1))));
    if (diameter.empty() != length.empty())
        throw InputError(
            "A dog point has a diameter and a length: dog 7 x 5; dog alone is that of ISO 4753.");
    if (diameter.empty()) return;
    e.diameter = {diameter, w.unit};
    e.distance = {length, w.unit};
}

std::string dog_text(const EndTreatment& e, const Reading& as) {
    if (e.diameter.text.empty()) return "dog";
    return "dog " + typed_as(e.diameter, as.unit, as.names) + " x " + typed_as(e.distance, as.unit, as.names);
}

ResolvedEnd resolve_dog(const EndInZone& at) {
    const ResolvedZone& z = at.zone;
    if (z.in_bore() || z.outline() != Outline::round || (!z.thread() && !z.as<ResolvedPlain>()))
        throw InputError("Only the outside of a thread or of a round bar ends in a dog point; choose flat or "
                         "chamfer.");
    ResolvedEnd r;
    r.kind = EndKind::chamfer;
    r.angle = deg(45);
    r.follows = at.end.diameter.text.empty();
    if (r.follows) {
        const auto usual = usual_dog(z);
        if (!usual)
            throw InputError("ISO 4753 gives dog points for M3 to M24; here say its diameter and length, for "
                             "example dog 7 x 5.");
        r.diameter = usual->diameter;
        r.dome_height = usual->length;
    } else {
        r.diameter = length_in_range(at.end.diameter, at.names, "diameter of a dog point", 0.1);
        r.dome_height = length_in_range(at.end.distance, at.names, "length of a dog point", 0.05);
    }
    r.tip_diameter = r.diameter;
    const double most = 0.98 * in_mm(at.far ? z.far_diameter : z.diameter);
    if (in_mm(r.diameter) > most)
        throw InputError("A dog point is narrower than what it stands on; here it is at most Ø " +
                             number_text(most, 3) + " mm.",
                         0, at.end.diameter.text.size());
    return r;
}

} // namespace

template<>
const EndModel& end_model<EndKind::dog>() {
    static constexpr EndNumber numbers[]{{"diameter", &EndTreatment::diameter},
                                         {"distance", &EndTreatment::distance}};
    static const EndModel model{.word = {"dog"},
                                .written = "dog 7 x 5 (diameter, length)",
                                .numbers = numbers,
                                .read = read_dog,
                                .text = dog_text,
                                .resolve = resolve_dog,
                                .offered = [](const ResolvedZone& z) {
                                    return !z.in_bore() && usual_dog(z) ? Words{"dog"} : Words{};
                                }};
    return model;
}

} // namespace whorl
