// All forms there are: a new one has its line here, in Form (job.hpp) and in ResolvedForm (resolve.hpp).
#pragma once

#include "model/forms/bend.hpp"
#include "model/forms/coil.hpp"
#include "model/forms/drum.hpp"
#include "model/forms/gear.hpp"
#include "model/forms/groove.hpp"
#include "model/forms/knurl.hpp"
#include "model/forms/lobe.hpp"
#include "model/forms/plain.hpp"
#include "model/forms/rack.hpp"
#include "model/forms/silhouette.hpp"
#include "model/forms/spline.hpp"
#include "model/forms/thread.hpp"

namespace whorl {

// Calls `work` with the FormModel of what the zone wears.
template<class Work>
auto with_model(const Zone& zone, Work work) {
    return std::visit([&]<class F>(const F&) { return work(FormModel<F>{}); }, zone.form);
}
template<class Work>
auto with_model(const ResolvedZone& zone, Work work) {
    return std::visit([&]<class R>(const R&) { return work(FormModel<typename R::Asked>{}); }, zone.form);
}
// … with every form's, in order.
template<class Work, std::size_t I = 0>
void for_each_model(Work work) {
    if constexpr (I < count_of<Form>) {
        work(FormModel<alternative_of<I, Form>>{});
        for_each_model<Work, I + 1>(work);
    }
}

// The smallest and largest radius of its surface at z, without its ends; of grooves and threads that of root and crest.
inline Radii radii_at(const ResolvedZone& zone, double z) {
    return with_model(zone, [&]<class Model>(Model) {
        if constexpr (requires { Model::radii_at(zone, z); })
            return Model::radii_at(zone, z);
        else
            return Model::radii(zone);
    });
}

// Whether it is the whole piece, without zones or bores beside it.
template<class AnyZone>
bool stands_alone(const AnyZone& zone) {
    return with_model(zone, []<class Model>(Model) { return Model::stands == Stands::alone; });
}

} // namespace whorl
