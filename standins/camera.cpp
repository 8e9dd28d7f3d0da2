// A simulated camera on a cable: its pictures are rendered from how the studio really is.
#include <QVBoxLayout>

#include "formats/photograph.h"
#include "formats/picture_file.h"
#include "plan/framing.h"
#include "stand_in.h"

namespace easel::standins {

class TestCamera : public StandIn {
  Q_OBJECT

 public:
  explicit TestCamera(const Options& options)
      : StandIn(DeviceKind::Camera, options, {"take"}, {Mishap::Misfire, Mishap::NotRecycled, Mishap::ModellingLamp}),
        studio_(options.seed) {
    face_->setText(QStringLiteral("0 taken"));
  }

 protected:
  void asked(long long id, const WireMessage& m) override {
    Plan set = planWith(plan(), readState(folder()));
    if (const double* iso = m.number("iso")) set.camera.iso = std::clamp(*iso, 25.0, 25600.0);
    if (const double* shutter = m.number("shutter")) set.camera.shutter = std::clamp(*shutter, 1.0 / 8000, 30.0);
    const PhotographSettings settings{set.camera.shutter, set.camera.shootingAperture(), set.camera.iso};
    const auto [width, height] = sizeInFrame(set.camera.frame, 240.0 * 300);
    const Picture p = studio_.picture(set, whatFires(set, mishapNow()), width, height, 4);
    const auto file = folder() / ("picture-" + std::to_string(++taken_) + ".png");
    writePng(file, p.width, p.height, p.rgba);
    writeSettings(file, settings);
    face_->setText(QStringLiteral("%1 taken").arg(taken_));
    answer(id, {{"picture", file.string()},
                {"iso", *settings.iso},
                {"shutter", *settings.shutter},
                {"aperture", *settings.aperture}});
  }

 private:
  HiddenStudio studio_;
  int taken_ = 0;
};

std::unique_ptr<StandIn> makeCamera(const Options& options) { return std::make_unique<TestCamera>(options); }

}  // namespace easel::standins

#include "camera.moc"
