#include "document/state_folder.h"

#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

#include <QDir>
#include <QFile>
#include <cerrno>

#include "files/places.h"

namespace easel::app {

std::filesystem::path pathOf(const QString& file) {
  const QByteArray bytes = QFile::encodeName(file);
  return std::filesystem::path(std::string(bytes.constData(), size_t(bytes.size())));
}
QString shownName(const std::filesystem::path& path) { return QString::fromStdString(path.string()); }

QString stateFolder() {
  QString base = qEnvironmentVariable("XDG_STATE_HOME");
  if (!base.startsWith(QLatin1Char('/'))) base = shownName(homeFolder() / ".local/state");
  return base + "/jolly-easel";
}

void makePrivate(const QString& folder) {
  QDir().mkpath(folder);
  QFile::setPermissions(folder, QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
}

std::unique_ptr<HeldFile> HeldFile::hold(const QString& file) {
  const std::string name = pathOf(file).string();
  for (;;) {
    const int fd = ::open(name.c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK, 0600);
    if (fd < 0) return std::unique_ptr<HeldFile>(new HeldFile(name, -1));
    if (::flock(fd, LOCK_EX | LOCK_NB) != 0) {
      const bool others = errno == EWOULDBLOCK;
      ::close(fd);
      if (others) return nullptr;
      return std::unique_ptr<HeldFile>(new HeldFile(name, -1));
    }
    // Whoever held it may have taken the name away between the two.
    struct stat ours {
    }, named{};
    if (::fstat(fd, &ours) == 0 && ::stat(name.c_str(), &named) == 0 && ours.st_ino == named.st_ino &&
        ours.st_dev == named.st_dev)
      return std::unique_ptr<HeldFile>(new HeldFile(name, fd));
    ::close(fd);
  }
}

HeldFile::~HeldFile() {
  if (fd_ < 0) return;
  ::unlink(file_.c_str());
  ::close(fd_);
}

}  // namespace easel::app
