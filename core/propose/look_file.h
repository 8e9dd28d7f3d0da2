// Looks as they stand in files of the format "jolly-easel-looks" (docs/formats/looks.md, data/looks.json).
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <vector>

#include "propose/shelf.h"

namespace easel {

/// Adds what stands in a file that keeps to the schema. Throws FileError for what names a thing that is not there.
void readLooks(const nlohmann::ordered_json& json, std::vector<Look>& looks);

}  // namespace easel
