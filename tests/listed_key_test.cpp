// Every key a thread lists, in every family, against the second derivation of thread_table.py; what that has
// no row for fails too, so that a new key needs one.
#include "form/designation.hpp"
#include "thread_table.hpp"

#include <catch2/catch.hpp>
#include <map>
#include <numbers>

using namespace whorl;
using whorl::test::thread_table;

TEST_CASE("every listed key of threads of every family, by a second derivation") {
    std::map<std::string, std::map<std::string, const test::ThreadRow*>> wanted;
    for (const auto& row : thread_table)
        wanted[row.designation][row.key] = &row;
    CHECK(wanted.size() >= 28);
    for (const auto& [designation, rows] : wanted) {
        INFO(designation);
        const ResolvedThread t = resolve_thread(std::get<ThreadSpec>(parse_designation(designation).what));
        CHECK(t.values.size() == rows.size());
        for (const ResolvedValue& v : t.values) {
            INFO(v.key << ": " << v.source);
            const auto it = rows.find(v.key);
            REQUIRE(it != rows.end());
            const test::ThreadRow& row = *it->second;
            if (v.kind == ValueKind::text) {
                CHECK(v.text == row.text);
                continue;
            }
            CHECK_FALSE(v.source.empty());
            const double unit = v.kind == ValueKind::angle ? 180 / std::numbers::pi : 1;
            const auto same = [&](const std::optional<double>& ours, double theirs) {
                REQUIRE(ours.has_value() == !std::isnan(theirs));
                if (ours) CHECK(*ours * unit == Approx(theirs).epsilon(1e-6).margin(1.1e-5));
            };
            same(v.value, row.value);
            same(v.min, row.min);
            same(v.max, row.max);
        }
    }
}
