#include "instruments/instrument.h"

namespace easel::app {

Instrument::Instrument(ViewedPlan* viewed, const QString& name, const QString& help, QWidget* parent)
    : Painted(parent) {
  setAttribute(Qt::WA_OpaquePaintEvent);  // all of it is painted; nothing need be laid under it
  setAccessibleName(name);
  if (!help.isEmpty()) {
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(help);
  }
  setViewed(viewed);
}

void Instrument::setViewed(ViewedPlan* viewed) {
  if (viewed_) disconnect(viewed_, nullptr, this, nullptr);
  viewed_ = viewed;
  connect(viewed_, &ViewedPlan::changed, this, &Instrument::repaintSoon);
  connect(viewed_, &ViewedPlan::replaced, this, [this] { forget(); });
  repaintSoon();
}

void Instrument::setSelected(const QString& id) {
  selected_ = id;
  repaintSoon();
}

void Instrument::setSelectedPanel(const QString& number) {
  panel_ = number;
  repaintSoon();
}

}  // namespace easel::app
