#include "controllers/sitters_arriving.h"

namespace easel::app {

SittersArriving::SittersArriving(QObject* parent) : QObject(parent) {
  connect(&watch_, &FileWatch::changed, this, [this] { look(); });
  // A program that was killed changes nothing in the folder.
  again_.setInterval(5000);
  connect(&again_, &QTimer::timeout, this, [this] { look(); });
  look();
}

void SittersArriving::look() {
  task_.start([this](const BackgroundTask::Go&) -> BackgroundTask::Done {
    const auto folder = sitterFolder();
    const Baking found = bakingOf(folder);
    return [this, folder, found] {
      if (now_ == found) return;
      const bool more = now_ && found.there > now_->there;
      now_ = found;
      if (found.goesOn) watch_.watch({QString::fromStdString(folder.string())});
      found.goesOn ? again_.start() : again_.stop();
      emit changed(found, more);
    };
  });
}

}  // namespace easel::app
