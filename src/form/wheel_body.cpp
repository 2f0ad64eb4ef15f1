#include "form/wheel_body.hpp"

namespace whorl {

bool take_bore(Reader& r, WheelBody& body, LengthUnit unit) {
    const std::size_t from = r.at();
    if (!r.take_word_ignoring_case("bore")) return false;
    if (body.bore) r.refuse_from(from, "The bore is said a second time; write it once.");
    r.skip_blanks();
    body.bore =
        of_unit(r.size("diameter", "The bore's diameter is expected here, for example bore 16."), unit);
    const std::size_t behind = r.at();
    r.skip_blanks();
    body.key = r.take_word_ignoring_case("key");
    if (!body.key) r.move_to(behind);
    return true;
}

} // namespace whorl
