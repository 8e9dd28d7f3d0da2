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
  all().push_back(this);
}

RenderLink::~RenderLink() {
  renderer_.reset();
  std::erase(all(), this);
}

std::vector<RenderLink*>& RenderLink::all() {
  static std::vector<RenderLink*> links;
  return links;
}

void RenderLink::comeFirst() {
  for (RenderLink* link : all()) link->renderer_->setPriority(link == this ? Priority::InView : Priority::Behind);
}

void RenderLink::request(const Plan& plan, const Show& show, int width, int height, Extras extras) {
  if (!next_) QMetaObject::invokeMethod(this, &RenderLink::flush, Qt::QueuedConnection);
  next_ = Request{plan, show, width, height, extras};
}

void RenderLink::flush() {
  const Request r = std::move(*next_);
  next_.reset();
  serial_ = renderer_->setPlan(r.plan, r.show, r.width, r.height, r.extras);
}

}  // namespace easel::app
