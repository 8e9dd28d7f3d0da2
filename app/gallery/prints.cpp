#include "gallery/prints.h"

#include <QCache>
#include <QCryptographicHash>
#include <map>
#include <mutex>

#include "formats/plan_json.h"
#include "render/picture_image.h"

namespace easel::app {
namespace {

// By what the picture depends on. On the threads that make them.
class Kept {
 public:
  std::optional<QImage> find(const QByteArray& key) {
    const std::lock_guard lock(guard_);
    const QImage* image = cache_.object(key);
    return image ? std::optional(*image) : std::nullopt;
  }
  void keep(const QByteArray& key, const QImage& image) {
    const std::lock_guard lock(guard_);
    cache_.insert(key, new QImage(image), std::max<qsizetype>(1, image.sizeInBytes()));
  }
  void forget() {
    const std::lock_guard lock(guard_);
    cache_.clear();
  }
  static Kept& ofProcess() {
    static Kept kept;
    return kept;
  }

 private:
  std::mutex guard_;
  QCache<QByteArray, QImage> cache_{40'000'000};  // bytes
};

QByteArray keyOf(Plan plan, PrintShows shows, const std::string& light, QSize pixels) {
  plan.title.clear();
  plan.notes.clear();
  plan.wanted.clear();
  plan.spots.clear();
  if (shows == PrintShows::OneLight)
    for (Light& l : plan.lights) l.power = l.targetStops = 0;
  QCryptographicHash hash(QCryptographicHash::Sha256);
  hash.addData(QByteArray::fromStdString(writePlanText(plan)));
  hash.addData(QByteArray::fromStdString(light) + char('0' + int(shows)) + QByteArray::number(pixels.width()) + 'x' +
               QByteArray::number(pixels.height()));
  return hash.result();
}

}  // namespace

Prints::Prints(QObject* parent) : QObject(parent) {}

void Prints::forget() { Kept::ofProcess().forget(); }

void Prints::stop() {
  ++round_;
  task_.cancel();
}

void Prints::ask(const std::vector<ChoiceToPrint>& choices, PrintShows shows, const std::string& light, QSize pixels) {
  stop();
  task_.start(
      [this, choices, shows, light, pixels, round = round_](const BackgroundTask::Go& go) -> BackgroundTask::Done {
        int done = 0;
        const int all = int(choices.size());
        const auto hand = [&](const std::string& id, const QImage& image) {
          ++done;
          QMetaObject::invokeMethod(
              this,
              [this, round, id = QString::fromStdString(id), image, done, all] {
                if (round != round_) return;
                emit made(id, image);
                emit progressed(done, all);
              },
              Qt::QueuedConnection);
          return go(double(done) / all);
        };
        std::vector<ChoiceToPrint> missing;
        std::map<std::string, QByteArray> keys;
        for (const ChoiceToPrint& c : choices) {
          const QByteArray key = keyOf(c.plan, shows, light, pixels);
          if (const auto image = Kept::ofProcess().find(key)) {
            if (!hand(c.id, *image)) return {};
          } else {
            keys.emplace(c.id, key);
            missing.push_back(c);
          }
        }
        if (!missing.empty())
          printChoices(missing, shows, light, pixels.width(), pixels.height(),
                       [&](const std::string& id, const std::optional<Picture>& print) {
                         const QImage image = print ? imageOf(*print) : QImage();
                         if (!image.isNull()) Kept::ofProcess().keep(keys.at(id), image);
                         return hand(id, image);
                       });
        return {};
      });
}

}  // namespace easel::app
