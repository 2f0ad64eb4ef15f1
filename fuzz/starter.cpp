// Lines for a new piece: a job that resolves, is checked and survives its file, or a sentence.
#include "model/starter.hpp"
#include "check/check.hpp"
#include "model/job_file.hpp"
#include "sentence.hpp"

using namespace whorl;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string text(reinterpret_cast<const char*>(data), size);
    complete_piece(text);
    try {
        const Job job = add_piece({}, piece_of(text));
        check_job(job);
        fuzz::require(job_from_json(job_to_json(job)) == job, "the file gives the same job", text);
    } catch (const InputError& e) {
        fuzz::require_sentence(e, std::max(size, std::string(e.what()).size()));
    }
    return 0;
}
