// Looks as they stand in files of the format "jolly-easel-looks" (docs/formats/looks.md, data/looks.json).
#pragma once

#include <vector>

#include "propose/shelf.h"

namespace easel {

class Record;

/// Adds what stands in a file that keeps to the schema. Throws FileError for what names a thing that is not there.
void readLooks(const Record& record, std::vector<Look>& looks);

}  // namespace easel
