// Where sessions keep what is not saved, and how they know of one another.
#pragma once

#include <QLockFile>
#include <QString>
#include <memory>

namespace easel::app {

QString stateFolder();
/// Makes it; only the user reads what lies there.
void makePrivate(const QString& folder);
/// Not locked yet. Nobody's lock once its process is dead.
std::unique_ptr<QLockFile> lockAt(const QString& file);

}  // namespace easel::app
