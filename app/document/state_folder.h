// Where sessions keep what is not saved, how they know of one another, and names of files.
#pragma once

#include <QString>
#include <filesystem>
#include <memory>
#include <string>

namespace easel::app {

/// A file name as Qt shows it, to the bytes that the file system knows, and back (which may lose bytes that are no
/// text).
std::filesystem::path pathOf(const QString& file);
QString shownName(const std::filesystem::path& path);

QString stateFolder();
/// Makes it; only the user reads what lies there.
void makePrivate(const QString& folder);
/// A file that one process holds as long as it lives: the kernel lets go of it however that ends. Any thread.
class HeldFile {
 public:
  /// None: another process, or another holder in this one, has it. Where the file cannot be made, on a full disk or in
  /// a folder that cannot be written, nobody else can hold it either, and it counts as held.
  static std::unique_ptr<HeldFile> hold(const QString& file);
  ~HeldFile();
  HeldFile(const HeldFile&) = delete;
  HeldFile& operator=(const HeldFile&) = delete;

 private:
  HeldFile(std::string file, int fd) : file_(std::move(file)), fd_(fd) {}
  std::string file_;
  int fd_;  ///< -1: it could not be made
};

}  // namespace easel::app
