#include "stages/read_stage.h"

namespace easel::app {

ReadStage::ReadStage(const Bench& bench, QObject* parent)
    : Stage(bench, parent), card_(new ReadCard(bench.viewed)), byEye_(new ByEyePage) {
  card_->addPage("By eye", byEye_, tr("By eye"));
  connect(card_, &ReadCard::tryOut, bench_.onEasel, &OnEasel::tryOut);
  connect(card_, &ReadCard::taken, bench_.onEasel, &OnEasel::takeOver);
  connect(card_, &ReadCard::evidenceChanged, this, &Stage::evidenceChanged);
  connect(bench_.reading, &PictureAnalysis::arrived, this, [this] {
    card_->setReading(bench_.reading->latest());
    emit marked();
    emit evidenceChanged();
  });
  EaselView* easel = bench_.easel;
  connect(byEye_, &ByEyePage::changed, easel, &EaselView::setTools);
  connect(byEye_, &ByEyePage::besideWanted, this, [this] { bench_.loadBeside(); });
  connect(byEye_, &ByEyePage::besideAway, this, [this] { bench_.easel->setBeside({}, {}); });
  connect(easel, &EaselView::toolsChanged, this, [this, easel] { byEye_->setShown(easel->tools()); });
}

QString ReadStage::help() const {
  return tr(
      "The lighting pattern and three ways to another, the figures of the face, its eyes, and the faults with what "
      "cures each. What a page speaks of is drawn on the picture. Click the set from above or from the side to give "
      "it the window.");
}

Arrangement ReadStage::arrangement(bool wide) const {
  const Arrangement setup = inRow({glance(views::kDial), glance(views::kRail)}, 2);
  if (wide)
    return inRow({inColumn({shown(views::kEasel, 3), exactly(views::kLedge), setup}, 42),
                  inColumn({exactly(views::kAnswer), shown(id())}, 58)});
  return inRow({inColumn({shown(views::kEasel), exactly(views::kLedge)}, 42),
                inColumn({exactly(views::kAnswer), shown(id(), 3), setup}, 58)});
}

QString ReadStage::mark() const {
  const int faults = bench_.reading->latest() ? bench_.reading->latest()->count() : 0;
  return faults ? QStringLiteral("(%1)").arg(faults) : QString();
}

void ReadStage::showEvidence() {
  const auto& reading = card_->reading();
  if (!reading || bench_.onEasel->tryingOut() || !bench_.reading->current() ||
      bench_.onEasel->show().what != Show::What::All)
    return Stage::showEvidence();
  std::vector<EaselEvidence::Trace> traces;
  std::vector<EaselEvidence::Mark> marks;
  std::vector<EaselEvidence::Spot> spots;
  const QString page = card_->page();
  if (page == "Pattern") {
    const LightingAnalysis& l = reading->lighting;
    traces.push_back({l.terminator, 2, {}});
    traces.push_back({l.noseShadow, 0, tr("nose's shadow")});
    traces.push_back({l.triangle, 1, tr("lit triangle")});
  } else if (page == "Measures") {
    const Measures& m = reading->measures;
    for (int i = 0; i < int(m.outline.size()); ++i)
      if (const OutlinePlace& o = m.outline[size_t(i)]; i == m.weakest || o.merges())
        marks.push_back({{double(o.pixel.x), double(o.pixel.y)}, i == m.weakest ? tr("weakest edge") : QString()});
    if (m.backdropShows)
      marks.push_back({{double(m.backdropBrightest.x), double(m.backdropBrightest.y)}, tr("brightest backdrop")});
  } else if (page == "Faults") {
    if (const Fault* f = reading->fault(card_->chosenFault().toStdString(), card_->chosenWhere().toStdString())) {
      for (const Vec3& p : f->places) spots.push_back({p, {}, true});
      if (f->id == "merged-outline")
        for (const OutlinePlace& o : reading->measures.outline)
          if (o.part != OutlinePlace::Part::Shoulder && o.merges())
            marks.push_back({{double(o.pixel.x), double(o.pixel.y)}, {}});
    }
  }
  bench_.easel->evidence()->lay({traces, std::move(marks), spots});
}

}  // namespace easel::app
