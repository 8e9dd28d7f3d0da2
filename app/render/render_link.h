// The bridge from the core's render thread to the interface thread.
#pragma once

#include <QObject>
#include <memory>
#include <optional>
#include <vector>

#include "rendering/renderer.h"

namespace easel::app {

class RenderLink : public QObject {
  Q_OBJECT

 public:
  explicit RenderLink(QObject* parent = nullptr);
  ~RenderLink() override;

  /// What is asked for within one event goes to the renderer once, at its end: a window that opens a plan as soon as it
  /// stands computes no other before.
  void request(const Plan& plan, const Show& show, int width, int height, Extras extras = {});
  /// The picture at the pixels of the screen.
  void setSharp(const SharpWish& wish) { renderer_->setSharp(wish); }
  /// Its pictures before those of every other link, until another one is called first.
  void comeFirst();
  /// Passes after which a picture is good enough.
  void setEnough(int passes) { renderer_->setEnough(passes); }
  const std::shared_ptr<const Result>& latest() const { return latest_; }
  bool upToDate() const { return !next_ && latest_ && latest_->serial == serial_; }

 signals:
  void arrived();  ///< latest() is new

 private:
  void flush();
  static std::vector<RenderLink*>& all();  ///< of the process

  struct Request {
    Plan plan;
    Show show;
    int width, height;
    Extras extras;
  };
  std::optional<Request> next_;
  std::uint64_t serial_ = 0;
  std::shared_ptr<const Result> latest_;
  std::unique_ptr<Renderer> renderer_;
};

}  // namespace easel::app
