#include "form/thread/tolerance_class.hpp"

#include "quantity/input_error.hpp"

#include <string_view>

namespace whorl {
namespace {

[[noreturn]] void refuse_metric(const std::string& text, const std::string& why) {
    throw InputError(in_quotes(text) + " is not a metric tolerance class: " + why +
                         " Examples: 6g, 4h, 5g6g for screws; 6H, 6G, 4H5H for nuts.",
                     0, text.size());
}

} // namespace

MetricClass metric_class(const std::string& text) {
    const auto pair_at = [&](std::size_t i) {
        const char g = text[i], p = text[i + 1];
        if (g < '3' || g > '9') refuse_metric(text, "the grade is a digit from 3 to 9.");
        if (std::string_view("efghGH").find(p) == std::string_view::npos)
            refuse_metric(text, "the position is e, f, g or h for screws, G or H for nuts.");
        return std::pair{g - '0', p};
    };
    if (text.size() != 2 && text.size() != 4) refuse_metric(text, "a grade and a letter belong together.");
    const auto [pg, pp] = pair_at(0);
    const auto [cg, cp] = text.size() == 4 ? pair_at(2) : std::pair{pg, pp};
    const bool internal = pp == 'G' || pp == 'H', crest_internal = cp == 'G' || cp == 'H';
    if (internal != crest_internal)
        refuse_metric(text, "small letters (screws) and capitals (nuts) are mixed.");
    if (!internal && cg != 4 && cg != 6 && cg != 8)
        refuse_metric(text, "the major diameter has grades 4, 6 and 8 only; write the crest class too.");
    if (internal && (pg < 4 || pg > 8 || cg < 4 || cg > 8)) refuse_metric(text, "nuts have grades 4 to 8.");
    return {pg, pp, cg, cp};
}

UnifiedClass unified_class(const std::string& text) {
    if (text.size() == 2 && text[0] >= '1' && text[0] <= '3' && (text[1] == 'A' || text[1] == 'B'))
        return {text[0] - '0', text[1] == 'A'};
    throw InputError(in_quotes(text) + " is not a Unified class: 1A, 2A, 3A for screws, 1B, 2B, 3B for nuts.",
                     0, text.size());
}

std::optional<Side> side_of_class(ThreadFamily family, const std::string& text) {
    switch (family) {
    case ThreadFamily::unified:
        return unified_class(text).external ? Side::external : Side::internal;
    case ThreadFamily::iso_metric: {
        const char p = metric_class(text).pitch_position;
        return p == 'G' || p == 'H' ? Side::internal : Side::external;
    }
    case ThreadFamily::pipe_g:
        if (text != "A" && text != "B" && !text.empty())
            throw InputError(in_quotes(text) +
                                 " is not a class of ISO 228-1: A or B for external threads, none for "
                                 "internal ones.",
                             0, text.size());
        return text.empty() ? Side::internal : Side::external;
    case ThreadFamily::pipe_r:
        if (text != "R" && text != "Rc" && text != "Rp")
            throw InputError(in_quotes(text) + " is not a thread of ISO 7-1: R, Rc or Rp.", 0, text.size());
        return text == "R" ? Side::external : Side::internal;
    case ThreadFamily::trapezoidal:
        if (text.size() != 2 || text[0] < '6' || text[0] > '9' ||
            std::string_view("cehH").find(text[1]) == std::string_view::npos)
            throw InputError(in_quotes(text) +
                                 " is not a class of ISO 2903: 6 to 9 with c, e or h for screws, with H "
                                 "for nuts (7e, 8c, 7H).",
                             0, text.size());
        return text[1] == 'H' ? Side::internal : Side::external;
    default:
        return {};
    }
}

std::string usual_class(ThreadFamily family, Side side) {
    const bool external = side == Side::external;
    switch (family) {
    case ThreadFamily::iso_metric:
        return external ? "6g" : "6H";
    case ThreadFamily::unified:
        return external ? "2A" : "2B";
    case ThreadFamily::whitworth:
        return "medium";
    case ThreadFamily::pipe_g:
        return external ? "A" : "";
    case ThreadFamily::pipe_r:
        return external ? "R" : "Rc";
    case ThreadFamily::trapezoidal:
        return external ? "7e" : "7H";
    case ThreadFamily::acme:
    case ThreadFamily::stub_acme:
        return "2G";
    default:
        return "";
    }
}

} // namespace whorl
