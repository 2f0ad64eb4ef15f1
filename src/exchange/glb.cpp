// Pieces together as binary glTF 2.0, by tinygltf: a node a piece, in metres, under one that turns z up to y up.
#include "exchange/assembly.hpp"

#include "model/file.hpp"

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wpedantic"
#pragma GCC diagnostic ignored "-Wshadow"
#include <nlohmann/json.hpp>
#define TINYGLTF_IMPLEMENTATION
#define TINYGLTF_NO_STB_IMAGE
#define TINYGLTF_NO_STB_IMAGE_WRITE
#define TINYGLTF_NO_EXTERNAL_IMAGE
#define TINYGLTF_NO_INCLUDE_JSON
#define TINYGLTF_NO_INCLUDE_STB_IMAGE
#define TINYGLTF_NO_INCLUDE_STB_IMAGE_WRITE
#include <tiny_gltf.h>
#pragma GCC diagnostic pop

#include <cmath>
#include <sstream>
#include <unordered_map>

namespace whorl {
namespace {

constexpr double metre = 1e-3; // of a millimetre

// A corner: a point with one of the normals it has. Normals that agree to a hundredth of a degree are one.
struct Corner {
    std::uint32_t point;
    std::array<std::int16_t, 3> normal;
    friend bool operator==(const Corner&, const Corner&) = default;
};
struct CornerHash {
    std::size_t operator()(const Corner& c) const {
        std::size_t h = c.point;
        for (const auto v : c.normal)
            h = h * 1000003 + static_cast<std::uint16_t>(v);
        return h;
    }
};

class Writing {
public:
    Writing() { model_.buffers.emplace_back(); }

    int material(const Piece& piece, std::size_t zone) {
        const Finish& f = finish_of(piece, zone);
        const std::array<double, 3> colour{f.red, f.green, f.blue};
        const auto [found, added] =
            materials_.try_emplace({f.name, colour}, static_cast<int>(model_.materials.size()));
        if (!added) return found->second;
        tinygltf::Material m;
        m.name = f.name;
        // colours there are linear, ours sRGB (IEC 61966-2-1)
        std::vector<double> linear;
        linear.reserve(4);
        for (const double v : colour)
            linear.push_back(v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4));
        linear.push_back(1);
        m.pbrMetallicRoughness.baseColorFactor = linear;
        m.pbrMetallicRoughness.metallicFactor = 0.4;
        m.pbrMetallicRoughness.roughnessFactor = 0.5;
        model_.materials.push_back(std::move(m));
        return found->second;
    }

    void add(const Part& part) {
        const solid::Mesh& mesh = part.preview->mesh;
        const solid::Shading shading = part.preview->body.shading(mesh);
        std::vector<float> points, normals;
        std::unordered_map<Corner, std::uint32_t, CornerHash> known;
        std::map<int, std::vector<std::uint32_t>> corners; // of each material's triangles
        std::array<float, 3> low{1e30f, 1e30f, 1e30f}, high{-1e30f, -1e30f, -1e30f};
        for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
            auto& to = corners[material(part.piece, static_cast<std::size_t>(std::max(0, shading.zone[t])))];
            for (std::size_t k = 0; k < 3; ++k) {
                const auto& n = shading.normals[t][k];
                const double length = std::sqrt(n.x * n.x + n.y * n.y + n.z * n.z);
                const auto step = [&](double v) {
                    return static_cast<std::int16_t>(std::lround(8191 * v / length));
                };
                const Corner corner{mesh.triangles[t][k], {step(n.x), step(n.y), step(n.z)}};
                const auto [found, added] =
                    known.try_emplace(corner, static_cast<std::uint32_t>(points.size() / 3));
                if (added) {
                    const auto& p = mesh.points[corner.point];
                    const std::array<double, 3> at{p.x, p.y, p.z};
                    for (std::size_t i = 0; i < 3; ++i) {
                        points.push_back(static_cast<float>(at[i] * metre));
                        low[i] = std::min(low[i], points.back());
                        high[i] = std::max(high[i], points.back());
                    }
                    for (const double v : {n.x, n.y, n.z})
                        normals.push_back(static_cast<float>(v / length));
                }
                to.push_back(found->second);
            }
        }
        const int at = accessor(points, TINYGLTF_TYPE_VEC3, TINYGLTF_COMPONENT_TYPE_FLOAT,
                                TINYGLTF_TARGET_ARRAY_BUFFER, 3);
        auto& bounds = model_.accessors[static_cast<std::size_t>(at)];
        bounds.minValues = {low.begin(), low.end()};
        bounds.maxValues = {high.begin(), high.end()};
        const int normal = accessor(normals, TINYGLTF_TYPE_VEC3, TINYGLTF_COMPONENT_TYPE_FLOAT,
                                    TINYGLTF_TARGET_ARRAY_BUFFER, 3);
        tinygltf::Mesh out;
        out.name = part.piece.name;
        for (const auto& [material, indices] : corners) {
            tinygltf::Primitive one;
            one.mode = TINYGLTF_MODE_TRIANGLES;
            one.material = material;
            one.attributes = {{"POSITION", at}, {"NORMAL", normal}};
            one.indices = accessor(indices, TINYGLTF_TYPE_SCALAR, TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT,
                                   TINYGLTF_TARGET_ELEMENT_ARRAY_BUFFER, 1);
            out.primitives.push_back(std::move(one));
        }
        tinygltf::Node node;
        node.name = part.piece.name;
        node.mesh = static_cast<int>(model_.meshes.size());
        const Standing& s = part.at;
        for (const auto& v : {s.x, s.y, s.z}) // by columns
            node.matrix.insert(node.matrix.end(), {v[0], v[1], v[2], 0});
        node.matrix.insert(node.matrix.end(),
                           {s.origin[0] * metre, s.origin[1] * metre, s.origin[2] * metre, 1});
        model_.meshes.push_back(std::move(out));
        model_.nodes.push_back(std::move(node));
    }

    std::string done(const std::string& name) {
        tinygltf::Node top;
        top.name = name;
        top.matrix = {1, 0, 0, 0, 0, 0, -1, 0, 0, 1, 0, 0, 0, 0, 0, 1};
        for (std::size_t i = 0; i < model_.nodes.size(); ++i)
            top.children.push_back(static_cast<int>(i));
        tinygltf::Scene scene;
        scene.name = name;
        scene.nodes = {static_cast<int>(model_.nodes.size())};
        model_.nodes.push_back(std::move(top));
        model_.scenes.push_back(std::move(scene));
        model_.defaultScene = 0;
        model_.asset.version = "2.0";
        model_.asset.generator = "Regular Whorl";
        std::ostringstream out;
        tinygltf::TinyGLTF writer;
        if (!writer.WriteGltfSceneToStream(&model_, out, false, true))
            throw FileError("The GLB can't be made: the library for it refused. Please report the job.");
        return out.str();
    }

private:
    template<class T>
    int accessor(const std::vector<T>& values, int type, int component, int target, std::size_t each) {
        auto& data = model_.buffers[0].data;
        const auto* bytes = reinterpret_cast<const unsigned char*>(values.data());
        tinygltf::BufferView view;
        view.buffer = 0;
        view.byteOffset = data.size();
        view.byteLength = values.size() * sizeof(T);
        view.target = target;
        data.insert(data.end(), bytes, bytes + view.byteLength);
        tinygltf::Accessor a;
        a.bufferView = static_cast<int>(model_.bufferViews.size());
        a.componentType = component;
        a.count = values.size() / each;
        a.type = type;
        model_.bufferViews.push_back(std::move(view));
        model_.accessors.push_back(std::move(a));
        return static_cast<int>(model_.accessors.size()) - 1;
    }

    tinygltf::Model model_;
    std::map<std::pair<std::string, std::array<double, 3>>, int> materials_;
};

} // namespace

std::string glb_of(const Assembly& all) {
    Writing out;
    for (const Part& part : all.parts)
        out.add(part);
    return out.done(all.name);
}

} // namespace whorl
