// Designations: understood and written back as the same, or refused with a place and a sentence.
#include "check/check.hpp"
#include "sentence.hpp"

using namespace whorl;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string text(reinterpret_cast<const char*>(data), size);
    complete_designation(text);
    Designation d;
    try {
        d = parse_designation(text);
        if (const auto* thread = std::get_if<ThreadSpec>(&d.what)) {
            const ResolvedThread r = resolve_thread(*thread);
            const std::string written = write_designation(*thread, d.length);
            const Designation again = parse_designation(written);
            fuzz::require(write_designation(std::get<ThreadSpec>(again.what), again.length) == written,
                          "written back as the same", text);
            resolve_thread(counterpart(r.spec));
        }
        if (const auto* knurl = std::get_if<KnurlSpec>(&d.what)) {
            const std::string written = write_knurl(*knurl, d.length, d.unit);
            const KnurlDesignation again = parse_knurl(written);
            fuzz::require(write_knurl(again.spec, again.length, again.unit) == written,
                          "written back as the same", text);
        }
        check_job(add_piece({}, d));
    } catch (const InputError& e) {
        fuzz::require_sentence(e, std::max(size, std::string(e.what()).size()));
    }
    return 0;
}
