// Job files: read, checked and written back as the same, or refused with a sentence.
#include "model/job_file.hpp"
#include "check/check.hpp"
#include "sentence.hpp"

using namespace whorl;

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string text(reinterpret_cast<const char*>(data), size);
    try {
        const Job job = job_from_json(text);
        check_job(job);
        fuzz::require(job_from_json(job_to_json(job)) == job, "the file gives the same job", text);
    } catch (const InputError& e) {
        fuzz::require_sentence(e, std::max(size, std::string(e.what()).size()));
    }
    return 0;
}
