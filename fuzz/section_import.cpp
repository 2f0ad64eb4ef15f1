// Outlines from other programs: a section that can be used, or a sentence. The first byte chooses the format.
#include "exchange/section_import.hpp"
#include "sentence.hpp"

using namespace whorl;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    if (size == 0) return 0;
    const std::string text(reinterpret_cast<const char*>(data) + 1, size - 1);
    try {
        const auto outline = data[0] % 3 == 0   ? outline_from_csv(text)
                             : data[0] % 3 == 1 ? outline_from_svg(text)
                                                : outline_from_dxf(text);
        require_usable(section_from_outline(outline, "fuzzed"));
    } catch (const InputError& e) {
        fuzz::require_sentence(e, size + 1000);
    }
    return 0;
}
