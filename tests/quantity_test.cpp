#include "quantity/expression.hpp"

#include <catch2/catch.hpp>
#include <clocale>
#include <limits>
#include <random>

using namespace whorl;

namespace {

double in_millimetres(const std::string& text, LengthUnit unit = LengthUnit::millimetre,
                      const Names& names = {}) {
    return in_mm(evaluate_length(text, unit, names));
}

std::size_t position_of_error(const std::string& text, const Names& names = {}) {
    try {
        (void)evaluate_length(text, LengthUnit::millimetre, names);
    } catch (const InputError& e) {
        INFO(e.what());
        CHECK(std::string(e.what()).size() > 20);
        CHECK(std::string(e.what()).find_last_of(".?") != std::string::npos);
        return e.position;
    }
    FAIL("'" << text << "' was accepted");
    return 0;
}

} // namespace

TEST_CASE("lengths and angles convert at the edges only") {
    CHECK(in_mm(inch(1)) == 25.4);
    CHECK(in_inch(mm(25.4)) == 1.0);
    CHECK(in_deg(rad(std::numbers::pi)) == Approx(180));
    CHECK(mm(3) + mm(4) == mm(7));
    CHECK(mm(3) / mm(4) == 0.75);
    static_assert(!std::is_convertible_v<double, Length>);
    static_assert(!std::is_convertible_v<Length, Angle>);
}

TEST_CASE("a field takes arithmetic and units") {
    CHECK(in_millimetres("12.5") == 12.5);
    CHECK(in_millimetres("  12.5 mm ") == 12.5);
    CHECK(in_millimetres("1/18 in") == Approx(25.4 / 18));
    CHECK(in_millimetres("pi*64") == Approx(64 * std::numbers::pi));
    CHECK(in_millimetres("1 3/8 in") == Approx(1.375 * 25.4));
    CHECK(in_millimetres("1 3/8\"") == Approx(1.375 * 25.4));
    CHECK(in_millimetres("10 mm + 1/8 in") == Approx(13.175));
    CHECK(in_millimetres("2 cm") == 20);
    CHECK(in_millimetres("1e1") == 10);
    CHECK(in_millimetres("-(2+3)*2") == -10);
    CHECK(in_millimetres("2^3") == 8);
    CHECK(in_millimetres("sqrt(16)") == 4);
    CHECK(in_millimetres("max(1, 2, 3)") == 3);
}

TEST_CASE("the field's unit applies to plain numbers and to nothing else") {
    const Names names{{"pitch", mm(1.5)}, {"n", 3.0}};
    CHECK(in_millimetres("2", LengthUnit::inch) == Approx(50.8));
    CHECK(in_millimetres("2*pitch", LengthUnit::inch, names) == Approx(3));
    CHECK(in_millimetres("2*pitch + 1", LengthUnit::inch, names) == Approx(3 + 25.4));
    CHECK(in_millimetres("n", LengthUnit::inch, names) == Approx(3 * 25.4));
    CHECK(in_millimetres("n*pitch", LengthUnit::inch, names) == Approx(4.5));
    CHECK(in_millimetres("sqrt(pitch*pitch)", LengthUnit::inch, names) == Approx(1.5));
}

TEST_CASE("copies of names share what they hold, and keep it when one of them changes") {
    Names first{{"pitch", mm(1.5)}};
    Names second = first;
    CHECK(first == second);
    second.set("pitch", mm(2));
    second.set("n", 3.0);
    CHECK(in_millimetres("2*pitch", LengthUnit::millimetre, first) == Approx(3));
    CHECK(in_millimetres("n*pitch", LengthUnit::millimetre, second) == Approx(6));
    CHECK_FALSE(first == second);
    CHECK(first.find("n") == nullptr);
    CHECK(first == Names{{"pitch", mm(1.5)}}); // by what they hold
    CHECK_FALSE(Names{} == first);
    CHECK(Names{} == Names{});
    std::string all;
    for (const auto& [name, value] : second)
        all += name + " ";
    CHECK(all == "n pitch ");
}

TEST_CASE("a formula uses the names it says, whatever others there are") {
    Names names;
    for (int i = 0; i < 200; ++i)
        names.set("v" + std::to_string(i), mm(i));
    names.set("e", mm(7)); // no exponent
    names.set("u", InchNumber{2});
    CHECK(in_millimetres("v1 + v11 + v111", LengthUnit::millimetre, names) == Approx(1 + 11 + 111));
    CHECK(in_millimetres("2*e + 1e1 mm", LengthUnit::millimetre, names) == Approx(24));
    CHECK(in_millimetres("u", LengthUnit::millimetre, names) == Approx(50.8));
    CHECK(in_millimetres("u*v3", LengthUnit::millimetre, names) == Approx(6));
    // what was read before leaves nothing behind
    CHECK_THROWS_WITH(in_millimetres("v200", LengthUnit::millimetre, names),
                      Catch::Contains("'v200' is not known"));
    CHECK_THROWS_WITH(in_millimetres("v1", LengthUnit::millimetre), Catch::Contains("'v1' is not known"));
    CHECK_THROWS_AS(in_millimetres("1/0", LengthUnit::millimetre, names), InputError);
    CHECK(in_millimetres("v7*2", LengthUnit::millimetre, names) == Approx(14));
}

TEST_CASE("what is not a length is refused") {
    const Names names{{"pitch", mm(1.5)}, {"flank", deg(60)}};
    CHECK_THROWS_AS(in_millimetres("pitch*pitch", LengthUnit::millimetre, names), InputError);
    CHECK_THROWS_AS(in_millimetres("1/pitch", LengthUnit::millimetre, names), InputError);
    CHECK_THROWS_AS(in_millimetres("flank", LengthUnit::millimetre, names), InputError);
    CHECK_THROWS_AS(evaluate_number("pitch", names), InputError);
    CHECK(evaluate_number("pitch/pitch*3", names) == Approx(3));
    CHECK(in_deg(evaluate_angle("flank/2", names)) == Approx(30));
    CHECK(in_deg(evaluate_angle("45")) == Approx(45));
    CHECK(in_deg(evaluate_angle("0.5 rad")) == Approx(28.6478897565));
    CHECK_THROWS_AS(evaluate_angle("3 mm"), InputError);
}

TEST_CASE("an error says where") {
    CHECK(position_of_error("2*pich", {{"pitch", mm(1)}}) == 2);
    CHECK(position_of_error("12 + foo") == 5);
    CHECK(position_of_error("(1+2") == 4);
    CHECK(position_of_error("1,5") == 1);
    CHECK(position_of_error("a = 3") == 2);
    CHECK(position_of_error("") == 0);
    CHECK(position_of_error("1/0") == 0);
    CHECK(position_of_error(std::string(500, '1')) == 400);
    CHECK(position_of_error("1\n2") == 1);
}

TEST_CASE("names that would be confusing are refused") {
    for (const char* bad : {"", "mm", "in", "pi", "sin", "2d", "a b", "_x", "d-1", "max"})
        CHECK_THROWS_AS(require_usable_name(bad), InputError);
    for (const char* good : {"drum_d", "a", "Pitch2", "inner", "millimetres"})
        CHECK_NOTHROW(require_usable_name(good));
}

TEST_CASE("numbers are written short and read back") {
    CHECK(number_text(1.5, 4) == "1.5");
    CHECK(number_text(2, 4) == "2");
    CHECK(number_text(-0.00001, 3) == "0");
    CHECK(length_text(inch(0.25), LengthUnit::inch) == "0.25");
    std::mt19937 random(7);
    std::uniform_real_distribution<double> size(-500, 500);
    for (int i = 0; i < 2000; ++i) {
        const double v = size(random);
        for (const auto unit : {LengthUnit::millimetre, LengthUnit::inch}) {
            const double back = in_millimetres(length_text(mm(v), unit), unit);
            INFO(v);
            CHECK(back == Approx(v).margin(unit == LengthUnit::inch ? 1.3e-4 : 5.1e-5));
        }
    }
}

TEST_CASE("random junk is refused or gives a finite number") {
    std::mt19937 random(11);
    const std::string alphabet = "0123456789.+-*/^() eE,_pimnx\"'=<>!&|?:;%$#@[]{}\\\t\xC2\xB0";
    for (int i = 0; i < 5000; ++i) {
        std::string text;
        const int n = static_cast<int>(random() % 24);
        for (int k = 0; k < n; ++k)
            text += alphabet[random() % alphabet.size()];
        INFO("seed 11, text '" << text << "'");
        double value = 0;
        try {
            value = in_mm(evaluate_length(text, LengthUnit::millimetre));
        } catch (const InputError& e) {
            CHECK(e.position <= text.size());
        }
        CHECK(std::isfinite(value));
    }
}

TEST_CASE("commas are decimal signs where no function lists its arguments") {
    CHECK(with_decimal_points("1,5") == "1.5");
    CHECK(with_decimal_points("(1,5 + 2)*3,25") == "(1.5 + 2)*3.25");
    CHECK(with_decimal_points("max(1,5)") == "max(1,5)");
    CHECK(with_decimal_points("2,5*max((1,5),2)") == "2.5*max((1,5),2)");
    CHECK(with_decimal_points("M10x1,25-6g x 40,5") == "M10x1.25-6g x 40.5");
    CHECK(with_decimal_points("Tr40x14(P3,5)") == "Tr40x14(P3.5)");
    CHECK(with_decimal_points("rise 10, dwell 60") == "rise 10, dwell 60");
    CHECK(with_decimal_points("pitch(1,5") == "pitch(1.5"); // a name, no function
    CHECK(with_decimal_points(",5)(,") == ",5)(,");
}

TEST_CASE("numbers are read and written the same whatever the C library's locale is") {
    const std::string before = std::setlocale(LC_ALL, nullptr);
    INFO("a locale with decimal commas; scripts/install makes it");
    REQUIRE(std::setlocale(LC_ALL, "de_DE.UTF-8") != nullptr);
    const std::string text = number_text(1.25, 4), sum = number_text(evaluate_number("1.5*2 + 0.25"), 4);
    const double bare = evaluate_number("2.75");
    std::setlocale(LC_ALL, before.c_str());
    CHECK(text == "1.25");
    CHECK(sum == "3.25");
    CHECK(bare == 2.75);
}

TEST_CASE("a value outside a range is told apart from the range's ends") {
    CHECK(outside_text(0.0099, 0.01, 1) == "0.0099");
    CHECK(outside_text(0.009999999, 0.01, 1) == "0.009999999");
    CHECK(outside_text(1e-9, 0.05, 100) == "1e-09");
    CHECK(outside_text(1.5e308, 0.05, 100) == "1.5e+308");
    CHECK(outside_text(10000.00001, 0.01, 10000) == "10000.00001");
    CHECK(outside_text(-3, 0, 1) == "-3");
    CHECK(outside_text(0, 0.1, 1) == "0");
    for (const double v : {1e-300, 1e12, 4e99, 0.099999999999, 1.0000000001})
        CHECK(outside_text(v, 0.1, 1).size() < 20); // never hundreds of digits
}

TEST_CASE("what is foreign is quoted fit to print") {
    CHECK(in_quotes("M10") == "'M10'");
    CHECK(in_quotes("0123456789", 4) == "'0123\xE2\x80\xA6'");
    CHECK(in_quotes("\xC3\x98\xE2\x80\xB3\xC3\x98", 2) ==
          "'\xC3\x98\xE2\x80\xB3\xE2\x80\xA6'"); // letters, not bytes
    CHECK(in_quotes(std::string("a\0b\n\x7F", 5)) == std::string("'a?b") + "?" + "?'");
    for (const char* text : {"\xFF\x80\xC3", "\xC3", "\xE2\x82", "\x80\x80", "\xC0\xAF"}) // not UTF-8
        CHECK(in_quotes(text).find_first_not_of("'?") == std::string::npos);
}

TEST_CASE("characters that have no meaning in a formula are named with their place") {
    for (const auto& [text, shown] :
         {std::pair{"1/18~in", "'~'"}, std::pair{"2\xE2\x82\xAC", "'\xE2\x82\xAC'"},
          std::pair{"5 @ 3", "'@'"}, std::pair{"a=3", "'='"}}) {
        INFO(text);
        try {
            evaluate_length(text, LengthUnit::millimetre);
            FAIL("accepted");
        } catch (const InputError& e) {
            CHECK(std::string(e.what()).starts_with(shown));
            CHECK(std::string(text).substr(e.position, e.extent) + "'" == std::string(shown).substr(1));
        }
    }
}

TEST_CASE(
    "a value that was written as a plain number in inch is a length where one is wanted, else a number") {
    const Names names{{"d", InchNumber{0.75}}, {"turns", InchNumber{5}}, {"lead", mm(2)}};
    CHECK(in_mm(evaluate_length("d", LengthUnit::millimetre, names)) == Approx(19.05));
    CHECK(in_mm(evaluate_length("d", LengthUnit::inch, names)) == Approx(19.05));
    CHECK(in_mm(evaluate_length("2*d + 1", LengthUnit::millimetre, names)) == Approx(39.1));
    CHECK(in_mm(evaluate_length("turns*lead", LengthUnit::millimetre, names)) ==
          Approx(10)); // it counts here
    CHECK(evaluate_number("turns + 1", names) == Approx(6));
    CHECK(in_deg(evaluate_angle("turns*9", names)) == Approx(45));
    CHECK(std::get<InchNumber>(evaluate("2*d", names)).value == Approx(1.5)); // another value by it
    CHECK(in_mm(std::get<Length>(evaluate("turns*lead", names))) == Approx(10));
    CHECK(std::get<double>(evaluate("3*4", names)) == 12);
}
