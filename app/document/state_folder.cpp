#include "document/state_folder.h"

#include <QDir>
#include <QFile>

namespace easel::app {

QString stateFolder() {
  QString base = qEnvironmentVariable("XDG_STATE_HOME");
  if (base.isEmpty()) base = QDir::homePath() + "/.local/state";
  return base + "/jolly-easel";
}

void makePrivate(const QString& folder) {
  QDir().mkpath(folder);
  QFile::setPermissions(folder, QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
}

std::unique_ptr<QLockFile> lockAt(const QString& file) {
  auto lock = std::make_unique<QLockFile>(file);
  lock->setStaleLockTime(0);  // as long as its process lives
  return lock;
}

}  // namespace easel::app
