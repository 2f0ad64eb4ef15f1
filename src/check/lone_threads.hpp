// A screw and a nut of one job that nobody has paired, of the same diameter but not of the same thread: easily taken for each
// other on paper, never on the bench. Internal to the check floor.
#pragma once

#include "check/kit.hpp"

namespace whorl {

// Advice `threads_do_not_meet`, at the inner thread of the two or at that of `piece`, whose remedy threads the inner one as the
// outer one is; `piece` beyond the last: all. Silent where either is in a pair or fits another piece of the job.
void check_lone_threads(std::vector<Finding>& out, const Job& job, std::size_t piece);

} // namespace whorl
