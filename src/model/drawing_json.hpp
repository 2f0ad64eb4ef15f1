// Drawings in a job file: an object "drawing" of the job and of each piece, left out where nothing is said.
#pragma once

#include "model/drawing_settings.hpp"

#include <nlohmann/json_fwd.hpp>

namespace whorl {

void drawing_to_json(const JobDrawing& drawing, nlohmann::ordered_json& to);
void drawing_to_json(const PieceDrawing& drawing, nlohmann::ordered_json& to);
JobDrawing job_drawing_from(const nlohmann::json& job);
PieceDrawing piece_drawing_from(const nlohmann::json& piece);

} // namespace whorl
