#include "solid/skin/thread_faces.hpp"

namespace whorl::solid {

void ThreadZone::add_faces(Skin& skin, const RimEdges& near, const RimEdges& far) const {
    ThreadFaces(*this, skin, near, far).add();
}

} // namespace whorl::solid
