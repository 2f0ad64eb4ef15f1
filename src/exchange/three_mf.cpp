// Pieces together as 3MF, by lib3mf's functions for C: an object and a build item a piece.
#include "exchange/assembly.hpp"

#include "model/file.hpp"

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wpedantic"
#include <Model/COM/NMR_DLLInterfaces.h>
#pragma GCC diagnostic pop

#include <cmath>

namespace whorl {
namespace {

struct Release {
    void operator()(void* thing) const { NMR::lib3mf_release(static_cast<NMR::PLib3MFBase*>(thing)); }
};
template<class T>
using Owned = std::unique_ptr<T, Release>;

// What failed is the library's own; the piece is not at fault.
void require(LIB3MFRESULT result) {
    if (result != 0)
        throw FileError("The 3MF can't be made: the library for it refused (" + std::to_string(result) +
                        "). Please report the job.");
}

BYTE channel(double v) {
    return static_cast<BYTE>(std::lround(255 * std::clamp(v, 0.0, 1.0)));
}

float single(double v) {
    return static_cast<float>(v);
}

// A point for each that single precision tells apart, and triangles that still have three: still watertight, as in STL.
struct SingleMesh {
    std::vector<NMR::MODELMESHVERTEX> points;
    std::vector<NMR::MODELMESHTRIANGLE> triangles;
};
SingleMesh in_single(const solid::Mesh& mesh) {
    SingleMesh out;
    std::map<std::array<float, 3>, DWORD> known;
    std::vector<DWORD> at;
    for (const auto& p : mesh.points) {
        const std::array<float, 3> v{single(p.x), single(p.y), single(p.z)};
        const auto [found, added] = known.try_emplace(v, static_cast<DWORD>(out.points.size()));
        if (added) out.points.push_back({{v[0], v[1], v[2]}});
        at.push_back(found->second);
    }
    for (const auto& t : mesh.triangles) {
        const DWORD a = at[t[0]], b = at[t[1]], c = at[t[2]];
        if (a != b && b != c && c != a) out.triangles.push_back({{a, b, c}});
    }
    return out;
}

} // namespace

std::string three_mf_of(const Assembly& all) {
    NMR::PLib3MFModel* made = nullptr;
    require(NMR::lib3mf_createmodel(&made));
    const Owned<NMR::PLib3MFModel> model(made);
    require(NMR::lib3mf_model_setunit(model.get(), NMR::MODELUNIT_MILLIMETER));
    NMR::PLib3MFModelBaseMaterial* group = nullptr;
    require(NMR::lib3mf_model_addbasematerialgroup(model.get(), &group));
    const Owned<NMR::PLib3MFModelBaseMaterial> materials(group);
    DWORD materials_id = 0;
    require(NMR::lib3mf_resource_getresourceid(materials.get(), &materials_id));
    std::map<std::string, DWORD> known; // by the finish's text

    std::array<double, 3> least{1e300, 1e300,
                                1e300}; // no part may lie at negative places: the whole is moved
    for (const Part& part : all.parts)
        for (const auto& p : part.preview->mesh.points) {
            const auto at = carried(part.at, {p.x, p.y, p.z});
            for (std::size_t k = 0; k < 3; ++k)
                least[k] = std::min(least[k], at[k]);
        }
    for (const Part& part : all.parts) {
        solid::require_watertight(part.preview->mesh);
        NMR::PLib3MFModelMeshObject* object = nullptr;
        require(NMR::lib3mf_model_addmeshobject(model.get(), &object));
        const Owned<NMR::PLib3MFModelMeshObject> mesh(object);
        SingleMesh m = in_single(part.preview->mesh);
        require(NMR::lib3mf_meshobject_setgeometry(mesh.get(), m.points.data(),
                                                   static_cast<DWORD>(m.points.size()), m.triangles.data(),
                                                   static_cast<DWORD>(m.triangles.size())));
        require(NMR::lib3mf_object_setnameutf8(mesh.get(), part.piece.name.c_str()));
        const Finish& f = finish_of(part.piece);
        auto material = known.find(part.piece.finish);
        if (material == known.end()) {
            DWORD index = 0;
            require(NMR::lib3mf_basematerial_addmaterialutf8(materials.get(), f.name, channel(f.red),
                                                             channel(f.green), channel(f.blue), &index));
            material = known.emplace(part.piece.finish, index).first;
        }
        NMR::PLib3MFDefaultPropertyHandler* handler = nullptr;
        require(NMR::lib3mf_object_createdefaultpropertyhandler(mesh.get(), &handler));
        const Owned<NMR::PLib3MFDefaultPropertyHandler> property(handler);
        require(NMR::lib3mf_defaultpropertyhandler_setbasematerial(property.get(), materials_id,
                                                                   material->second));
        NMR::MODELTRANSFORM place{};
        for (std::size_t k = 0; k < 3; ++k) {
            place.m_fFields[k][0] = single(part.at.x[k]);
            place.m_fFields[k][1] = single(part.at.y[k]);
            place.m_fFields[k][2] = single(part.at.z[k]);
            place.m_fFields[k][3] = single(part.at.origin[k] - least[k]);
        }
        NMR::PLib3MFModelBuildItem* item = nullptr;
        require(NMR::lib3mf_model_addbuilditem(model.get(), mesh.get(), &place, &item));
        const Owned<NMR::PLib3MFModelBuildItem> kept(item);
    }
    NMR::PLib3MFModelWriter* writing = nullptr;
    require(NMR::lib3mf_model_querywriter(model.get(), "3mf", &writing));
    const Owned<NMR::PLib3MFModelWriter> writer(writing);
    ULONG64 size = 0;
    require(NMR::lib3mf_writer_getstreamsize(writer.get(), &size));
    std::string out(size, '\0');
    require(NMR::lib3mf_writer_writetobuffer(writer.get(), reinterpret_cast<BYTE*>(out.data()), size));
    return out;
}

} // namespace whorl
