#include "form/thread/family.hpp"

namespace whorl {

const FamilyPage& page_of(ThreadFamily family) {
    switch (family) {
    case ThreadFamily::iso_metric:
        return iso_metric_page;
    case ThreadFamily::unified:
        return unified_page;
    case ThreadFamily::whitworth:
        return whitworth_page;
    case ThreadFamily::pipe_g:
        return pipe_g_page;
    case ThreadFamily::pipe_r:
        return pipe_r_page;
    case ThreadFamily::npt:
        return npt_page;
    case ThreadFamily::npsm:
        return npsm_page;
    case ThreadFamily::trapezoidal:
        return trapezoidal_page;
    case ThreadFamily::acme:
        return acme_page;
    case ThreadFamily::stub_acme:
        return stub_acme_page;
    case ThreadFamily::buttress:
        return buttress_page;
    case ThreadFamily::knuckle:
        return knuckle_page;
    case ThreadFamily::square:
        return square_page;
    case ThreadFamily::sharp_v:
        return sharp_v_page;
    case ThreadFamily::own:
        return own_page;
    }
    return iso_metric_page;
}

std::optional<Side> side_of_class(ThreadFamily family, const std::string& text) {
    const FamilyPage& page = page_of(family);
    return page.side ? page.side(text) : std::nullopt;
}

std::vector<std::string> classes_of(ThreadFamily family, Side side) {
    const FamilyPage& page = page_of(family);
    return side == Side::external ? page.external_classes : page.internal_classes;
}

std::string usual_class(ThreadFamily family, Side side) {
    const auto classes = classes_of(family, side);
    return classes.empty() ? "" : classes.front();
}

bool is_inch(ThreadFamily family) {
    return page_of(family).inch;
}

ThreadUse use_of(ThreadFamily family) {
    return page_of(family).use;
}

bool is_per_inch(ThreadFamily family) {
    return page_of(family).per_inch;
}

const std::vector<standard::ListedThread>& listed_threads(ThreadFamily family) {
    static const std::vector<standard::ListedThread> none;
    const FamilyPage& page = page_of(family);
    return page.listed ? page.listed() : none;
}

const char* word(ThreadFamily family) {
    return page_of(family).word;
}

const char* key_word(ThreadFamily family) {
    return page_of(family).key;
}

} // namespace whorl
