// Values that a text may use by name.
#pragma once

#include "quantity/quantity.hpp"

#include <functional>
#include <initializer_list>
#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <utility>
#include <variant>

namespace whorl {

// A plain number written in inch that may be meant as a length or as a count, see expression.hpp.
struct InchNumber {
    double value = 0;
    friend bool operator==(InchNumber, InchNumber) = default;
};

using Value = std::variant<double, Length, Angle, InchNumber>;

// A name is a letter followed by letters, digits and underscores. Copies share what they hold, so that handing the
// names of a job about costs nothing however many there are.
class Names {
public:
    using Map = std::map<std::string, Value, std::less<>>;

    Names() = default;
    Names(std::initializer_list<Map::value_type> values) : map_(std::make_shared<Map>(values)) {}

    const Value* find(std::string_view name) const {
        if (!map_) return nullptr;
        const auto it = map_->find(name);
        return it == map_->end() ? nullptr : &it->second;
    }
    void set(std::string name, Value value) { // copies made before keep what they have
        if (!map_)
            map_ = std::make_shared<Map>();
        else if (map_.use_count() > 1)
            map_ = std::make_shared<Map>(*map_);
        map_->insert_or_assign(std::move(name), value);
    }
    Map::const_iterator begin() const { return all().begin(); } // in the order of their names
    Map::const_iterator end() const { return all().end(); }
    friend bool operator==(const Names& a, const Names& b) { return a.map_ == b.map_ || a.all() == b.all(); }

private:
    const Map& all() const {
        static const Map none;
        return map_ ? *map_ : none;
    }
    std::shared_ptr<Map> map_;
};

} // namespace whorl
