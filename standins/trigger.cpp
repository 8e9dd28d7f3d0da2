// A simulated radio trigger: sets the heads of the hidden studio and fires them.
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "stand_in.h"

namespace easel::standins {

class Trigger : public StandIn {
  Q_OBJECT

 public:
  explicit Trigger(const Options& options)
      : StandIn(DeviceKind::Trigger, options, {"set", "fire"},
                {Mishap::Misfire, Mishap::WrongGroup, Mishap::TwoLights, Mishap::NotRecycled, Mishap::FlatBattery,
                 Mishap::ModellingLamp}) {
    state_ = readState(folder());
    state_.seed = options.seed;
    heads_ = new QTableWidget(0, 3);
    heads_->setHorizontalHeaderLabels(
        {QStringLiteral("Group"), QStringLiteral("On"), QStringLiteral("Stops from full")});
    heads_->verticalHeader()->hide();
    heads_->horizontalHeader()->setStretchLastSection(true);
    heads_->setColumnWidth(0, 60);
    heads_->setColumnWidth(1, 60);
    heads_->setMinimumSize(270, 180);
    heads_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    layout()->addWidget(heads_);
    auto* button = new QPushButton(QStringLiteral("Fire"));
    layout()->addWidget(button);
    connect(button, &QPushButton::clicked, this, [this] {
      try {
        fire();
        tell("fired", {{"flash", double(state_.flash)}});
      } catch (const std::exception& e) {
        say(QString::fromUtf8(e.what()));
      }
    });
    face_->setText(QStringLiteral("ready"));
  }

 protected:
  void asked(long long id, const WireMessage& m) override {
    if (m.name == "fire") {
      fire();
      return answer(id, {{"flash", double(state_.flash)}});
    }
    const std::string* group = m.text("group");
    if (!group || group->empty() || (!state_.heads.count(*group) && state_.heads.size() >= 16))
      return problem(id, QStringLiteral("The question wants a \"group\"; there are sixteen at most."));
    SharedState::Head& h = state_.heads[*group];
    if (const bool* on = m.yes("on")) h.on = *on;
    if (const bool* lamp = m.yes("modelling")) h.modelling = *lamp;
    if (const double* power = m.number("power")) h.power = std::clamp(*power, -14.0, 1.0);
    writeState(folder(), state_);
    list();
    answer(id, {{"battery", battery_}, {"ready", true}});
  }

 private:
  void fire() {
    const Mishap mishap = mishapNow();
    state_.fired = whatFires(planWith(plan(), state_), mishap);
    battery_ = mishap == Mishap::FlatBattery ? 0.05 : std::max(0.0, battery_ - 0.002);
    ++state_.flash;
    writeState(folder(), state_);
    face_->setText(QStringLiteral("flash %1").arg(state_.flash));
  }
  void list() {
    heads_->setRowCount(int(state_.heads.size()));
    int row = 0;
    for (const auto& [id, h] : state_.heads) {
      heads_->setItem(row, 0, new QTableWidgetItem(QString::fromStdString(id)));
      heads_->setItem(row, 1, new QTableWidgetItem(h.on ? QStringLiteral("on") : QStringLiteral("off")));
      heads_->setItem(row++, 2, new QTableWidgetItem(QString::number(h.power, 'f', 1)));
    }
  }
  SharedState state_;
  double battery_ = 0.9;
  QTableWidget* heads_;
};

std::unique_ptr<StandIn> makeTrigger(const Options& options) { return std::make_unique<Trigger>(options); }

}  // namespace easel::standins

#include "trigger.moc"
