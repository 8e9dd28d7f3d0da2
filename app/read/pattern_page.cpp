#include "read/pattern_page.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QVBoxLayout>
#include <cmath>

#include "plan/placement.h"
#include "rendering/progressive_render.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

QString upperFirst(QString text) {
  if (!text.isEmpty()) text[0] = text[0].toUpper();
  return text;
}

}  // namespace

PatternPage::PatternPage(ViewedPlan* viewed, QWidget* parent) : QWidget(parent), viewed_(viewed) {
  name_ = new QLabel(tr("Reading the picture..."), this);
  name_->setObjectName("patternName");
  sentence_ = new QLabel(this);
  sentence_->setObjectName("patternSentence");
  sentence_->setWordWrap(true);
  sentence_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  map_ = new PatternMapView(viewed, this);
  auto* left = new QVBoxLayout;
  left->setSpacing(2);
  left->addWidget(name_);
  left->addWidget(sentence_);
  left->addWidget(map_, 1);
  ways_ = new Gallery(this);
  ways_->setObjectName("ways");
  ways_->setAccessibleName(tr("Ways to another lighting pattern"));
  none_ = new QLabel(this);
  none_->setObjectName("noWays");
  none_->setWordWrap(true);
  none_->hide();
  auto* head = new QHBoxLayout;
  head->addWidget(new QLabel(tr("Ways to another pattern"), this));
  progress_ = new QProgressBar(this);
  progress_->setTextVisible(false);
  progress_->setMaximumSize(90, 5);
  progress_->setAccessibleName(tr("Pictures being made"));
  progress_->hide();
  head->addWidget(progress_);
  head->addStretch(1);
  auto* right = new QVBoxLayout;
  right->setSpacing(2);
  right->addLayout(head);
  right->addWidget(ways_, 1);
  right->addWidget(none_);
  auto* all = new QHBoxLayout(this);
  all->setContentsMargins(8, 3, 4, 2);
  all->addLayout(left, 6);
  all->addLayout(right, 5);
  const auto way = [this](const QString& id) {
    const auto at = std::find_if(found_.begin(), found_.end(), [&](const Way& w) { return w.id == id; });
    // A way is a whole plan, of the plan that it was found for.
    return at != found_.end() && waysOf_ == viewed_->plan() ? &*at : nullptr;
  };
  connect(ways_, &Gallery::rested, this, [this, way](const QString& id) {
    if (const Way* w = way(id)) emit tryOut(w->plan, w->label);
  });
  connect(ways_, &Gallery::left, this, [this] { emit tryOut(viewed_->plan(), {}); });
  connect(ways_, &Gallery::taken, this, [this, way](const QString& id) {
    if (const Way* w = way(id)) emit taken(Plan(w->plan), QString(w->label));
  });
  connect(&task_, &BackgroundTask::failed, this, &PatternPage::refused);
  connect(&prints_, &Prints::made, ways_, &Gallery::setPicture);
  connect(&prints_, &Prints::progressed, this, [this](int done, int of) {
    progress_->setRange(0, of);
    progress_->setValue(done);
    progress_->setVisible(done < of);
    if (done == of) refineMap();
  });
}

void PatternPage::setReading(const LightingAnalysis& lighting) {
  name_->setText(QString::fromStdString(lighting.name));
  sentence_->setText(QString::fromStdString(lighting.sentence));
  read_ = viewed_->plan();
  work();
}

void PatternPage::planChanged() {
  if (read_ == viewed_->plan()) return;
  read_.reset();
  task_.cancel();
  prints_.stop();
  progress_->hide();
  if (mapped_ && mapOf(viewed_->plan()) != *mapped_) {
    mapped_.reset();
    map_->setMap(nullptr);
  }
}

void PatternPage::showEvent(QShowEvent* e) {
  QWidget::showEvent(e);
  work();
}

// Of the plan alone: no file is read for it.
PatternPage::MapOf PatternPage::mapOf(const Plan& plan) const {
  MapOf of{plan.sitter, plan.room, plan.backdrop, {}, 0};
  for (const Light& l : plan.lights) of.lights.emplace_back(l.id, l.on, l.role, l.modifier);
  // A drag on the map keeps the distance but for rounding.
  if (const Light* key = map_->map() ? plan.light(map_->map()->key) : nullptr)
    of.distance = std::round(double(length(lightPose(plan, *key).centre - facePoint(plan))) * 50);
  return of;
}

void PatternPage::work() {
  if (!read_ || !isVisible() || task_.running()) return;
  if (!mapped_)
    makeMap();
  else if (waysOf_ != read_)
    findWays();
}

void PatternPage::makeMap() {
  task_.start([this, plan = *read_](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    ProgressiveRender studio(8, 8);
    studio.setPlan(plan);
    const auto made = keyMap(studio.scene(), *studio.set(), 10, [&go] { return go(0); });
    auto map = made ? std::make_shared<const KeyMap>(*made) : nullptr;
    return [this, plan, map] {
      map_->setMap(map);
      mapped_ = mapOf(plan);
      fine_ = false;
      findWays();
    };
  });
}

void PatternPage::refineMap() {
  const auto coarse = map_->map();
  if (fine_ || !coarse || task_.running()) return;
  task_.start([this, coarse, plan = viewed_->plan()](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    const auto made = finer(*coarse, placedSetOf(plan), [&go] { return go(0); });
    auto map = made ? std::make_shared<const KeyMap>(*made) : nullptr;
    return [this, coarse, map] {
      if (!map || map_->map() != coarse) return;
      fine_ = true;
      map_->setMap(map);
    };
  });
}

void PatternPage::findWays() {
  const auto map = map_->map();
  if (!read_) return;
  if (!map) return showWays({});  // no key on a stand
  task_.start([this, plan = *read_, scene = map->scene,
               spelling = Preferences::current().spelling()](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    std::vector<PatternWays> all;
    for (FacePattern p : kAskedFor) {
      if (!go(0)) return {};
      all.push_back(waysTo(*scene, plan, p, spelling));
    }
    return [this, plan, all] {
      waysOf_ = plan;
      showWays(all);
    };
  });
}

void PatternPage::showWays(const std::vector<PatternWays>& all) {
  found_.clear();
  std::vector<Gallery::Item> items;
  std::vector<ChoiceToPrint> choices;
  QStringList none;
  for (const PatternWays& p : all) {
    const QString pattern = upperFirst(QString::fromStdString(patternName(p.wanted)));
    if (!p.found) none << upperFirst(QString::fromStdString(p.sentence));
    for (const easel::Way& way : p.ways) {
      if (!way.possible) continue;
      const QString id = QStringLiteral("%1-%2").arg(patternId(p.wanted)).arg(int(way.what)),
                    sentence = upperFirst(QString::fromStdString(way.sentence));
      found_.push_back({id, QStringLiteral("%1: %2").arg(pattern, sentence), way.plan});
      items.push_back({id, pattern, QString::fromStdString(way.brief)});
      choices.push_back({id.toStdString(), way.plan});
    }
  }
  ways_->setItems(items);
  none_->setText(none.join(' '));
  none_->setVisible(!none.isEmpty());
  // The face as the camera sees it: head and lens are what two of the ways move.
  prints_.ask(choices, PrintShows::Face, {}, ways_->printPixels());
}

}  // namespace easel::app
