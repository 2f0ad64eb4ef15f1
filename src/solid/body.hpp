// The one door to what a piece is made of. Behind it stand the skins of pieces around an axis and the bodies
// in space of those that have none; in front of it all of them are meshed, weighed, proved and made a kernel
// solid in the same way.
#pragma once

#include "solid/bar/bar_body.hpp"
#include "solid/mesh/shading.hpp"
#include "solid/tube/tube_body.hpp"

#include <variant>

namespace whorl {
struct ResolvedPiece;
}

namespace whorl::solid {

class Body {
public:
    Body() = default; // of nothing
    explicit Body(Skin skin);
    Body(BarBody bar, double volume);
    Body(TubeBody tube, double volume);

    bool empty() const { return std::holds_alternative<std::monostate>(what_); }
    double volume() const { return volume_; } // mm³, closed form
    // What a piece around an axis is bounded by; none for others.
    const Skin* skin() const { return std::get_if<Skin>(&what_); }
    std::size_t faces() const;
    std::size_t zone_of(std::uint32_t face) const;

    // `chord` is the largest distance (mm) of a mesh side from the true surface. Throws CannotMake where that
    // would take more triangles than anyone could open, with the chord that would do.
    Mesh mesh(double chord) const;
    Shading shading(const Mesh& mesh) const;
    Solid solid(const Mesh& mesh) const; // with the mesh attached

    // Throws std::logic_error with what is wrong unless the surface is closed, lies where it should and is
    // cut around as receivers need it.
    void require_sound() const;

private:
    std::variant<std::monostate, Skin, BarBody, TubeBody> what_;
    double volume_ = 0;
};

// Throws CannotMake with a sentence for what can't be made, std::logic_error for a fault of ours.
Body make_body(const ResolvedPiece& piece);

} // namespace whorl::solid
