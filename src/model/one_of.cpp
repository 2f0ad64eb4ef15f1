#include "model/one_of.hpp"

#include "model/resolve.hpp"

namespace whorl {

template<class... T>
OneOf<T...>::OneOf() = default;
template<class... T>
OneOf<T...>::OneOf(const OneOf&) = default;
template<class... T>
OneOf<T...>::OneOf(OneOf&&) noexcept = default;
template<class... T>
OneOf<T...>& OneOf<T...>::operator=(const OneOf&) = default;
template<class... T>
OneOf<T...>& OneOf<T...>::operator=(OneOf&&) noexcept = default;
template<class... T>
OneOf<T...>::~OneOf() = default;
// As job.hpp and resolve.hpp have them: Form, ResolvedForm.
template class OneOf<PlainForm, ThreadForm, GearForm, RackForm, CoilForm, KnurlForm, LobeForm, DrumForm,
                     BendForm, GrooveForm, SilhouetteForm, SplineForm>;
template class OneOf<ResolvedPlain, ResolvedScrew, ResolvedWheel, ResolvedBar, ResolvedSpring,
                     ResolvedKnurling, ResolvedLobe, ResolvedTrack, ResolvedElbow, ResolvedGrooving,
                     ResolvedShape, ResolvedSplining>;

bool operator==(const Form& a, const Form& b) {
    return a.index() == b.index() &&
           std::visit([&]<class F>(const F& form) { return form == *std::get_if<F>(&b); }, a);
}

Zone::Zone() = default;
Zone::Zone(const Zone&) = default;
Zone::Zone(Zone&&) noexcept = default;
Zone& Zone::operator=(const Zone&) = default;
Zone& Zone::operator=(Zone&&) noexcept = default;
Zone::~Zone() = default;

Piece::Piece() = default;
Piece::Piece(const Piece&) = default;
Piece::Piece(Piece&&) noexcept = default;
Piece& Piece::operator=(const Piece&) = default;
Piece& Piece::operator=(Piece&&) noexcept = default;
Piece::~Piece() = default;

Job::Job() = default;
Job::Job(const Job&) = default;
Job::Job(Job&&) noexcept = default;
Job& Job::operator=(const Job&) = default;
Job& Job::operator=(Job&&) noexcept = default;
Job::~Job() = default;

ResolvedZone::ResolvedZone() = default;
ResolvedZone::ResolvedZone(const ResolvedZone&) = default;
ResolvedZone::ResolvedZone(ResolvedZone&&) noexcept = default;
ResolvedZone& ResolvedZone::operator=(const ResolvedZone&) = default;
ResolvedZone& ResolvedZone::operator=(ResolvedZone&&) noexcept = default;
ResolvedZone::~ResolvedZone() = default;

} // namespace whorl
