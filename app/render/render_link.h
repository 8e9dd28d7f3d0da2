// The bridge from the core's render thread to the interface thread.
#pragma once

#include <QObject>
#include <memory>

#include "picture/renderer.h"

namespace easel::app {

class RenderLink : public QObject {
  Q_OBJECT

 public:
  explicit RenderLink(QObject* parent = nullptr);
  ~RenderLink() override;

  void request(const Plan& plan, const Show& show, int width, int height, Extras extras = {});
  /// The picture at the pixels of the screen.
  void setSharp(const SharpWish& wish) { renderer_->setSharp(wish); }
  /// Passes after which a picture is good enough.
  void setEnough(int passes) { renderer_->setEnough(passes); }
  const std::shared_ptr<const Result>& latest() const { return latest_; }
  bool upToDate() const { return latest_ && latest_->serial == serial_; }

 signals:
  void arrived();  ///< latest() is new

 private:
  std::uint64_t serial_ = 0;
  std::shared_ptr<const Result> latest_;
  std::unique_ptr<Renderer> renderer_;
};

}  // namespace easel::app
