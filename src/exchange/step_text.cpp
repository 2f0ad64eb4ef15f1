#include "exchange/step_text.hpp"

#include <array>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstdint>
#include <unordered_map>
#include <vector>

namespace whorl {
namespace {

struct Instance {
    std::uint32_t id = 0;
    std::string body; // without blanks outside texts: TYPE(...)
};

bool is_digit(char c) {
    return c >= '0' && c <= '9';
}

// Calls `plain` with every character outside texts, and copies the texts.
template<class Plain>
void outside_texts(std::string_view s, std::string& out, const Plain& plain) {
    for (std::size_t i = 0; i < s.size();) {
        if (s[i] != '\'') {
            i = plain(i);
            continue;
        }
        std::size_t end = s.find('\'', i + 1);
        if (end == s.npos) end = s.size() - 1;
        out.append(s, i, end + 1 - i); // a quote in a text is doubled: the next text begins there
        i = end + 1;
    }
}

// #12 = NAME(...); one after another. False where something else stands.
bool read(std::string_view data, std::vector<Instance>& out) {
    std::size_t at = 0;
    for (;;) {
        while (at < data.size() && std::isspace(static_cast<unsigned char>(data[at])))
            ++at;
        if (at == data.size()) return true;
        if (data[at] != '#') return false;
        Instance one;
        const auto [end, error] = std::from_chars(data.data() + at + 1, data.data() + data.size(), one.id);
        if (error != std::errc()) return false;
        at = static_cast<std::size_t>(end - data.data());
        while (at < data.size() && data[at] != '=')
            ++at;
        const std::size_t begin = ++at;
        bool in_text = false;
        while (at < data.size() && (in_text || data[at] != ';')) {
            if (data[at] == '\'') in_text = !in_text;
            ++at;
        }
        if (at >= data.size()) return false;
        const std::string_view body = data.substr(begin, at - begin);
        one.body.reserve(body.size());
        outside_texts(body, one.body, [&](std::size_t i) {
            if (!std::isspace(static_cast<unsigned char>(body[i]))) one.body += body[i];
            return i + 1;
        });
        out.push_back(std::move(one));
        ++at;
    }
}

// Reals of Part 21 have a point: 3., 0.25.
void append_real(std::string& out, double v, int decimals) {
    std::array<char, 64> buffer{};
    const auto end =
        std::to_chars(buffer.data(), buffer.data() + buffer.size(), v, std::chars_format::fixed, decimals);
    std::string_view s(buffer.data(), static_cast<std::size_t>(end.ptr - buffer.data()));
    while (s.ends_with('0'))
        s.remove_suffix(1);
    if (s == "-0.") s = "0.";
    out += s;
}

std::string with_fewer_digits(std::string_view body, int decimals) {
    std::string out;
    out.reserve(body.size());
    outside_texts(body, out, [&](std::size_t i) {
        const bool number =
            is_digit(body[i]) || (body[i] == '-' && i + 1 < body.size() && is_digit(body[i + 1]));
        if (!number) {
            out += body[i];
            return i + 1;
        }
        double v = 0;
        const auto [end, error] = std::from_chars(body.data() + i, body.data() + body.size(), v);
        if (error != std::errc() || !(std::abs(v) < 1e9)) {
            out += body[i];
            return i + 1;
        }
        append_real(out, v, decimals);
        return static_cast<std::size_t>(end - body.data());
    });
    return out;
}

// The body with every reference through `to`.
template<class To>
std::string referring(std::string_view body, const To& to) {
    std::string out;
    out.reserve(body.size());
    outside_texts(body, out, [&](std::size_t i) {
        out += body[i];
        if (body[i] != '#') return i + 1;
        std::uint32_t id = 0;
        const auto [end, error] = std::from_chars(body.data() + i + 1, body.data() + body.size(), id);
        if (error != std::errc()) return i + 1;
        out += std::to_string(to(id));
        return static_cast<std::size_t>(end - body.data());
    });
    return out;
}

} // namespace

std::string smaller_step(std::string_view text, int decimals) {
    constexpr std::string_view opening = "DATA;", closing = "ENDSEC;";
    const std::size_t begin = text.find(opening), end = begin == text.npos ? begin : text.rfind(closing);
    std::vector<Instance> all;
    if (end == text.npos || end < begin + opening.size() ||
        !read(text.substr(begin + opening.size(), end - begin - opening.size()), all))
        return std::string(text);
    std::unordered_map<std::uint32_t, std::uint32_t> instead; // of what is one with an earlier one
    const auto kept = [&](std::uint32_t id) {
        const auto it = instead.find(id);
        return it == instead.end() ? id : it->second;
    };
    // what others are made of first
    for (const std::string_view kind : {"CARTESIAN_POINT(", "DIRECTION(", "VECTOR(", "AXIS2_PLACEMENT_3D("}) {
        std::unordered_map<std::string, std::uint32_t> known;
        for (Instance& one : all) {
            if (!one.body.starts_with(kind)) continue;
            one.body = kind[0] == 'C' ? with_fewer_digits(one.body, decimals) : referring(one.body, kept);
            const auto [it, is_new] = known.emplace(one.body, one.id);
            if (!is_new) instead.emplace(one.id, it->second);
        }
    }
    std::unordered_map<std::uint32_t, std::uint32_t> number;
    for (const Instance& one : all)
        if (!instead.contains(one.id)) number.emplace(one.id, static_cast<std::uint32_t>(number.size() + 1));
    std::string out(text.substr(0, begin + opening.size()));
    out.reserve(text.size() / 2);
    out += '\n';
    for (const Instance& one : all) {
        if (instead.contains(one.id)) continue;
        out += '#';
        out += std::to_string(number.at(one.id));
        out += '=';
        out += referring(one.body, [&](std::uint32_t id) {
            const auto it = number.find(kept(id));
            return it == number.end() ? id : it->second;
        });
        out += ";\n";
    }
    out += text.substr(end);
    return out;
}

} // namespace whorl
