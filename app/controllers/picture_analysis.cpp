#include "controllers/picture_analysis.h"

#include "rendering/renderer.h"
#include "widgets/wording.h"

namespace easel::app {

PictureAnalysis::PictureAnalysis(ViewedPlan* viewed, QObject* parent) : QObject(parent), viewed_(viewed) {
  connect(&task_, &BackgroundTask::failed, this, &PictureAnalysis::failed);
}

void PictureAnalysis::offer(const std::shared_ptr<const Result>& r) {
  if (!r->table || !r->quality || !r->layers->current || r->passes < 4) return;
  const bool same = passes_ >= 0 && asked_ == r->plan;
  if (same && (task_.running() || r->passes < (r->done ? passes_ + 1 : 8 * passes_))) return;
  asked_ = r->plan;
  passes_ = r->passes;
  task_.start(
      [this, r, spelling = Preferences::current().spelling()](const BackgroundTask::Go&) -> BackgroundTask::Done {
        auto reading = std::make_shared<const FaceAnalysis>(
            readPicture(*r->layers, *r->set, r->plan, *r->answers, *r->table, *r->quality, spelling));
        return [this, r, reading] {
          if (!(r->plan == viewed_->plan())) return;
          of_ = r->plan;
          latest_ = reading;
          emit arrived();
        };
      });
}

void PictureAnalysis::drop() {
  task_.cancel();
  passes_ = -1;
}

}  // namespace easel::app
