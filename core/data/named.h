// What every entry of a file of data has: an id, and a name in the user's language.
#pragma once

#include "files/record.h"
#include "spoken/say.h"

namespace easel {

/// Without a name it goes by its id.
template <class T>
T named(const Record& record) {
  T entry;
  take(record, "id", entry.id);
  entry.name = entry.id;
  take(record, "name", entry.name);
  entry.name = translated(entry.name);
  return entry;
}

}  // namespace easel
