#include "render/render_link.h"

namespace easel::app {

RenderLink::RenderLink(QObject* parent) : QObject(parent) {
  renderer_ = std::make_unique<Renderer>([this](std::shared_ptr<const Result> result) {
    QMetaObject::invokeMethod(
        this,
        [this, result = std::move(result)] {
          // Results of older requests still show something while a drag goes on, but never replace newer ones.
          if (latest_ && result->serial < latest_->serial) return;
          latest_ = result;
          emit arrived();
        },
        Qt::QueuedConnection);
  });
}

RenderLink::~RenderLink() { renderer_.reset(); }

void RenderLink::request(const Plan& plan, const Show& show, int width, int height, Extras extras) {
  serial_ = renderer_->setPlan(plan, show, width, height, extras);
}

}  // namespace easel::app
