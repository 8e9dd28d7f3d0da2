// A simulated flash meter: reads in the hidden studio, held as the program says.
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "exposure/shutter.h"
#include "exposure/spelling.h"
#include "stand_in.h"

namespace easel::standins {

class Meter : public StandIn {
  Q_OBJECT

 public:
  explicit Meter(const Options& options)
      : StandIn(DeviceKind::Meter, options, {"read"},
                {Mishap::HalfWay, Mishap::Receptor, Mishap::InShadow, Mishap::MeterSettings}),
        studio_(options.seed) {
    auto* button = new QPushButton(QStringLiteral("Measure"));
    button->setAccessibleDescription(QStringLiteral("What the last flash gave, held as for the last question"));
    layout()->addWidget(button);
    connect(button, &QPushButton::clicked, this, [this] {
      try {
        tell("reading", {{"fNumber", measure(readState(folder()).fired)}});
      } catch (const std::exception& e) {
        say(QString::fromUtf8(e.what()));
      }
    });
    face_->setText(QStringLiteral("f/ --"));
  }

 protected:
  void asked(long long id, const WireMessage& m) override {
    const std::string* light = m.text("light");
    light_ = light ? *light : std::string();
    const std::string *receptor = m.text("receptor"), *towards = m.text("towards"), *spot = m.text("spot");
    held_ = receptor && towards && spot
                ? QString::fromStdString(*receptor + ", towards " + *towards + ", at the " + *spot).left(80)
                : QString();
    const bool* flash = m.yes("flash");
    const SharedState state = readState(folder());
    if (flash && *flash && state.flash == seen_)
      return problem(id, QStringLiteral("No flash came. Is the trigger joined and the head on its group?"));
    seen_ = state.flash;
    answer(id, {{"fNumber", measure(flash && *flash ? state.fired : std::map<std::string, Fired>())}});
  }

 private:
  double measure(const std::map<std::string, Fired>& fired) {
    const Plan set = planWith(plan(), readState(folder()));
    const double f = studio_.read(set, light_, fired, mishapNow());
    const bool shows = f >= 0.7;
    face_->setText(shows ? QString::fromStdString(Spelling{}.aperture(f)) : QStringLiteral("too dark"));
    say(QStringLiteral("ISO %1, %2. %3")
            .arg(set.camera.iso)
            .arg(QString::fromStdString(writeShutter(set.camera.shutter)), held_));
    return std::max(f, 0.01);
  }
  HiddenStudio studio_;
  std::string light_;
  QString held_;  ///< how it was said to be held
  int seen_ = 0;
};

std::unique_ptr<StandIn> makeMeter(const Options& options) { return std::make_unique<Meter>(options); }

}  // namespace easel::standins

#include "meter.moc"
