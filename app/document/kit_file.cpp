#include "document/kit_file.h"

#include "document/state_folder.h"
#include "formats/kit_json.h"
#include "gear/kit.h"

namespace easel::app {

KitFile& KitFile::current() {
  static KitFile one;
  return one;
}

QString KitFile::loadOnce() { return loaded_ == kitFile() ? QString() : load(); }

QString KitFile::load() { return take(read(kitFile())); }

KitFile::Read KitFile::read(const std::filesystem::path& file) {
  Read out;
  out.file = file;
  out.mark = markOf(file);
  try {
    std::error_code none;
    if (std::filesystem::exists(file, none)) out.kit = loadKit(file);
  } catch (const std::exception& e) {
    out.unreadable = QString::fromUtf8(e.what());
  }
  return out;
}

QString KitFile::take(const Read& read) {
  loaded_ = read.file;
  mark_ = std::make_shared<FileMark>(read.mark);
  unreadable_ = read.unreadable;
  if (unreadable_.isEmpty()) {
    kit_ = read.kit;
    takeIntoUse(kit_);
  }
  emit changed();
  return unreadable_.isEmpty() ? QString() : tr("The kit could not be used: %1").arg(unreadable_);
}

void KitFile::set(const Inventory& kit) {
  if (!unreadable_.isEmpty()) return;
  kit_ = kit;
  takeIntoUse(kit_);
  write(false);
  emit changed();
}

void KitFile::startAnew(const Inventory& kit) {
  unreadable_.clear();
  kit_ = kit;
  takeIntoUse(kit_);
  write(true);
  emit changed();
}

void KitFile::write(bool keepOld) {
  strand_.attempt(
      [this, keepOld, kit = kit_, file = kitFile(), mark = mark_]() -> Strand::Report {
        if (!keepOld && changedSince(file, *mark))
          return [this, mark, now = read(file)] {
            // What was entered since is not in that file either: it is taken once, not once an entry.
            if (mark != mark_) return;
            take(now);
            emit said(
                tr("The kit was changed by another program: it has been read again. Enter your change once more."),
                true);
          };
        const auto kept = keepOld ? keepBackup(file) : std::filesystem::path();
        std::filesystem::create_directories(file.parent_path());
        saveKit(file, kit);
        *mark = markOf(file);
        if (kept.empty()) return {};
        return [this, kept] {
          emit said(tr("A new kit; the one that could not be read is kept as %1.").arg(shownName(kept)), false);
        };
      },
      [this](const QString& why) { emit said(why, true); });
}

}  // namespace easel::app
