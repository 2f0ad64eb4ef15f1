// Plausible pieces through body and mesh: what has no finding that stops is closed and watertight.
#include "build/build.hpp"
#include "model/job_file.hpp"
#include "plausible_piece.hpp"
#include "sentence.hpp"

using namespace whorl;

namespace {

// Two bytes a choice; 0 when they are used up.
struct Bytes {
    const unsigned char* data;
    std::size_t size;
    int whole(int low, int high) {
        if (size < 2) return low;
        const int drawn = data[0] << 8 | data[1];
        data += 2;
        size -= 2;
        return low + drawn % (high - low + 1);
    }
};

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    Bytes bytes{data, size};
    Job job;
    try {
        job.pieces = {test::PlausiblePiece(bytes).make()};
        const Preview p = make_preview(job.pieces[0], 0, {}, LengthUnit::millimetre, 0.1);
        for (const Finding& f : p.findings)
            fuzz::require(f.id != "own_fault", f.sentence.c_str(), job_to_json(job));
        if (!p.made()) return 0;
        p.body.require_sound();
        solid::require_watertight(p.mesh);
    } catch (const InputError&) {
    } catch (const std::exception& e) {
        fuzz::require(false, e.what(), job_to_json(job));
    }
    return 0;
}
