#include "dialogs/looks_dialog.h"

#include <QComboBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QRegularExpression>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "analysis/plan_reader.h"
#include "analysis/ways.h"
#include "balance/backdrop_tone.h"
#include "exposure/aperture.h"
#include "exposure/ratio.h"
#include "formats/plan_json.h"
#include "propose/prints.h"
#include "render/picture_image.h"
#include "widgets/choices.h"
#include "widgets/markup.h"
#include "widgets/mnemonics.h"
#include "widgets/theme.h"
#include "widgets/within_screen.h"
#include "widgets/wording.h"

namespace easel::app {
namespace {

constexpr int kPrintWidth = 176, kPrintHeight = 220;  // pixels that are made; shown as large as there is room

// What a shelf print depends on.
bool samePrints(const Plan& a, const Plan& b) {
  return a.sitter.id == b.sitter.id && a.sitter.hairColour == b.sitter.hairColour &&
         a.sitter.hairStyle == b.sitter.hairStyle && a.sitter.skinTone == b.sitter.skinTone &&
         a.sitter.outfit == b.sitter.outfit && a.sitter.cloth == b.sitter.cloth &&
         a.sitter.clothColour == b.sitter.clothColour && a.sitter.glasses == b.sitter.glasses &&
         a.sitter.eyeHeight == b.sitter.eyeHeight && a.room == b.room && a.backdrop == b.backdrop &&
         a.camera == b.camera;
}

constexpr int kFoundBy = Qt::UserRole + 8;  // of an item: the text that is searched

QString termsOf(const Look& look) {
  QStringList all;
  for (const std::string& term : look.terms) all << QString::fromStdString(term);
  return all.join(QStringLiteral(", "));
}

struct ShelfPrints {
  std::optional<Plan> of;
  QHash<QString, QImage> prints;
};
ShelfPrints& keptPrints() {
  static ShelfPrints kept;
  return kept;
}

}  // namespace

LooksDialog::LooksDialog(ViewedPlan* viewed, QWidget* parent) : QDialog(parent), viewed_(viewed) {
  setObjectName("looks");
  setWindowTitle(tr("Lighting looks"));
  resizeWithin(this, {1060, 680});
  auto* all = new QHBoxLayout(this);
  all->addLayout(shelfColumn(), 6);
  auto* right = new QVBoxLayout;
  about_ = new QLabel;
  about_->setObjectName("aboutLook");
  about_->setWordWrap(true);
  about_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  auto* aboutScroll = new QScrollArea;
  aboutScroll->setWidget(about_);
  aboutScroll->setWidgetResizable(true);
  aboutScroll->setFrameShape(QFrame::NoFrame);
  // The chosen one large, beside what is said of it.
  large_ = new QLabel;
  large_->setObjectName("largePrint");
  large_->setFixedSize((QSizeF(176, 220) * Theme::current().scale).toSize());
  large_->setScaledContents(true);
  auto* chosen = new QHBoxLayout;
  chosen->addWidget(large_, 0, Qt::AlignTop);
  chosen->addWidget(aboutScroll, 1);
  right->addLayout(chosen, 2);
  right->addWidget(wishForm());
  useOwn_ = new QPushButton(tr("Show this look on the open plan's sitter"));
  useOwn_->setObjectName("useOwnLook");
  right->addWidget(useOwn_);
  progress_ = new QProgressBar;
  progress_->setRange(0, 1000);
  progress_->setTextVisible(false);
  progress_->setMaximumHeight(8);
  progress_->hide();
  right->addWidget(progress_);
  state_ = new QLabel;
  state_->setObjectName("proposeState");
  state_->setWordWrap(true);
  right->addWidget(state_);
  proposals_ = new QWidget;
  auto* three = proposalBoxes();
  three->setContentsMargins(0, 0, 0, 0);
  proposals_->setLayout(three);
  proposals_->hide();
  right->addWidget(proposals_, 3);
  all->addLayout(right, 6);
  joinTasks();
  fillShelf();
  shelf_->setCurrentRow(0);
  listOwn();
  spreadMnemonics(this);
}

QVBoxLayout* LooksDialog::shelfColumn() {
  auto* left = new QVBoxLayout;
  search_ = new QLineEdit;
  search_->setObjectName("searchLooks");
  search_->setAccessibleName(tr("Search looks"));
  search_->setPlaceholderText(tr("Search: clamshell, low key, one light..."));
  search_->setClearButtonEnabled(true);
  left->addWidget(search_);
  none_ = new QLabel(tr("No look has that name. Search for a pattern, a mood or a piece of gear."));
  none_->setObjectName("noLook");
  none_->setWordWrap(true);
  none_->hide();
  left->addWidget(none_);
  connect(search_, &QLineEdit::textChanged, this, [this] {
    QListWidgetItem* first = filterShelf();
    // What is told on the right stands on the left.
    if (const QListWidgetItem* now = shelf_->currentItem(); first && (!now || now->isHidden()))
      shelf_->setCurrentItem(first);
  });
  shelf_ = new Gallery;
  shelf_->setObjectName("shelf");
  shelf_->setAccessibleName(tr("Looks"));
  shelf_->setLeast(190);
  left->addWidget(shelf_, 1);
  auto* keep = new QPushButton(tr("&Save this plan as a look..."));
  keep->setObjectName("keepLook");
  forget_ = new QPushButton(tr("Re&move this look"));
  forget_->setObjectName("forgetLook");
  forget_->setToolTip(tr("Removes the chosen look; only looks of your own can be removed"));
  auto* under = new QVBoxLayout;
  under->addWidget(keep);
  under->addWidget(forget_);
  left->addLayout(under);
  connect(shelf_, &QListWidget::currentRowChanged, this, [this] { lookChosen(); });
  connect(keep, &QPushButton::clicked, this, &LooksDialog::keepPlan);
  connect(forget_, &QPushButton::clicked, this, &LooksDialog::forget);
  return left;
}

QWidget* LooksDialog::wishForm() {
  wishBox_ = new QWidget;
  auto* form = new QGridLayout(wishBox_);
  form->setContentsMargins(0, 0, 0, 0);
  auto choice = [&](int row, int column, const QString& label, const char* name, const Choices& items) {
    auto* box = new QComboBox;
    box->setObjectName(name);
    box->setAccessibleName(QString(label).remove('&'));
    for (const auto& [id, text] : items) box->addItem(text, id);
    auto* l = new QLabel(label);
    l->setBuddy(box);
    form->addWidget(l, row, column * 2);
    form->addWidget(box, row, column * 2 + 1);
    return box;
  };
  const QString asLook = tr("as the look has it");
  Choices patterns{{"", asLook}};
  for (FacePattern p : kAskedFor) patterns.emplace_back(patternId(p), QString::fromStdString(patternName(p)));
  pattern_ = choice(0, 0, tr("Lighting &pattern"), "wishPattern", patterns);
  breadth_ = choice(1, 0, tr("Face &turned"), "wishBreadth",
                    {{"", asLook},
                     {"straight", tr("straight")},
                     {"short", tr("to the light (short)")},
                     {"broad", tr("away (broad)")}});
  hardness_ = choice(2, 0, tr("&Edges"), "wishHardness",
                     {{"", asLook}, {"soft", tr("soft")}, {"firm", tr("firm")}, {"hard", tr("hard")}});
  side_ = choice(0, 1, tr("&Key from"), "wishSide", {{"right", tr("camera right")}, {"left", tr("camera left")}});
  tone_ = choice(1, 1, tr("&Backdrop"), "wishTone", choicesOf(backdropTones(), {{"", asLook}}));
  auto text = [&](int column, const QString& label, const char* name, const QString& hint) {
    auto* f = new QLineEdit;
    f->setObjectName(name);
    f->setPlaceholderText(hint);
    f->setAccessibleName(QString(label).remove('&'));
    auto* l = new QLabel(label);
    l->setBuddy(f);
    form->addWidget(l, 2 + (column > 1), 2);
    form->addWidget(f, 2 + (column > 1), 3);
    return f;
  };
  ratio_ = text(1, tr("&Ratio"), "wishRatio", tr("4:1, or as the look has it"));
  ratio_->setToolTip(tr("Unit to unit, each read alone"));
  auto* apertureLabel = new QLabel(tr("&Aperture"));
  aperture_ = new QLineEdit;
  aperture_->setObjectName("wishAperture");
  aperture_->setPlaceholderText(tr("f/8, or the plan's own"));
  apertureLabel->setBuddy(aperture_);
  form->addWidget(apertureLabel, 3, 0);
  form->addWidget(aperture_, 3, 1);
  auto* buttons = new QHBoxLayout;
  propose_ = new QPushButton(tr("P&ropose sets"));
  propose_->setObjectName("propose");
  propose_->setDefault(true);
  stop_ = new QPushButton(tr("&Stop"));
  stop_->setObjectName("stopPropose");
  stop_->setEnabled(false);
  buttons->addWidget(propose_);
  buttons->addWidget(stop_);
  form->addLayout(buttons, 3, 2, 1, 2);
  form->setColumnStretch(1, 1);
  form->setColumnStretch(3, 1);
  connect(propose_, &QPushButton::clicked, this, &LooksDialog::proposeNow);
  connect(stop_, &QPushButton::clicked, this, [this] { proposeTask_.cancel(); });
  return wishBox_;
}

QHBoxLayout* LooksDialog::proposalBoxes() {
  auto* three = new QHBoxLayout;
  for (int i = 0; i < 3; ++i) {
    Box b;
    b.box = new QWidget;
    auto* g = new QGridLayout(b.box);
    g->setContentsMargins(0, 0, 0, 0);
    g->setVerticalSpacing(3);
    b.print = new QLabel;
    b.print->setFixedSize(120, 150);
    b.text = new QLabel;
    b.text->setWordWrap(true);
    b.text->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* scroll = new QScrollArea;
    scroll->setWidget(b.text);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    b.show = new QPushButton(tr("Preview"));
    b.show->setObjectName(QStringLiteral("showProposal%1").arg(i));
    b.take = new QPushButton(tr("Apply"));
    b.take->setObjectName(QStringLiteral("takeProposal%1").arg(i));
    g->addWidget(b.print, 0, 0, 1, 2, Qt::AlignHCenter);
    g->addWidget(scroll, 1, 0, 1, 2);
    g->addWidget(b.show, 2, 0);
    g->addWidget(b.take, 2, 1);
    g->setRowStretch(1, 1);
    b.box->hide();
    three->addWidget(b.box, 1);
    const size_t at = boxes_.size();
    auto label = [at] { return tr("Proposal %1").arg(at + 1); };
    connect(b.show, &QPushButton::clicked, this, [this, at, label] { emit tryOut(proposed_[at].plan, label()); });
    connect(b.take, &QPushButton::clicked, this, [this, at, label] { emit taken(proposed_[at].plan, label()); });
    boxes_.push_back(b);
  }
  return three;
}

void LooksDialog::joinTasks() {
  connect(&proposeTask_, &BackgroundTask::progressed, this, [this](double share) {
    progress_->show();
    progress_->setValue(int(1000 * share));
  });
  connect(&proposeTask_, &BackgroundTask::failed, this, [this](const QString& why) {
    searching_ = false;
    state_->setText(why);
  });
  connect(&proposeTask_, &BackgroundTask::ended, this, [this] {
    propose_->setEnabled(true);
    stop_->setEnabled(false);
    progress_->hide();
    progress_->setValue(0);
    if (std::exchange(searching_, false)) state_->setText(tr("Stopped."));
    refreshShelf();
  });
  connect(&printTask_, &BackgroundTask::failed, this, [this](const QString& why) { state_->setText(why); });
  connect(useOwn_, &QPushButton::clicked, this, [this] {
    const OwnLook* o = own();
    if (!o) return;
    ownTask_.start([this, file = o->file, name = o->name,
                    here = viewed_->plan()](const BackgroundTask::Go&) -> BackgroundTask::Done {
      PlanReader reader(8, 8, 1);
      const Plan p = reader.balanced(planForSitter(loadPlan(file), here));
      return [this, p, name] { emit tryOut(p, QString::fromStdString(name)); };
    });
  });
  connect(&ownTask_, &BackgroundTask::failed, this, [this](const QString& why) { state_->setText(why); });
  connect(viewed_, &ViewedPlan::replaced, this, &LooksDialog::forgetProposals);
}

void LooksDialog::listOwn(const std::function<void()>& change, const std::function<void()>& after) {
  disk_.attempt(
      [this, change, after]() -> Strand::Report {
        if (change) change();
        return [this, own = ownLooks(), after] {
          if (!own.empty() || !own_.empty()) {
            own_ = own;
            fillShelf();
          }
          if (after) after();
        };
      },
      [this](const QString& why) { emit said(why, true); });
}

void LooksDialog::showEvent(QShowEvent* e) {
  QDialog::showEvent(e);
  refreshShelf();
}

void LooksDialog::fillShelf() {
  const QSignalBlocker quiet(shelf_);
  stopPrinting();
  // These may have moved up.
  prints_.removeIf([](const auto& print) { return print.key().startsWith("own:"); });
  std::vector<Gallery::Item> items;
  QStringList foundBy;
  auto put = [&](const QString& id, const QString& name, const QString& terms, const QString& found) {
    items.push_back({id, name, terms});
    foundBy << name + ' ' + found;
  };
  for (const Look& l : looks())
    put(QString::fromStdString(l.id), QString::fromStdString(l.name),
        l.terms.empty() ? QString() : QString::fromStdString(l.terms.front()),
        termsOf(l) + ' ' + QString::fromStdString(l.forWhat));
  for (size_t i = 0; i < own_.size(); ++i)
    put(QStringLiteral("own:%1").arg(i), tr("%1 (own)").arg(QString::fromStdString(own_[i].name)), {},
        QString::fromStdString(own_[i].plan.notes));
  shelf_->setItems(items);
  for (int i = 0; i < shelf_->count(); ++i) shelf_->item(i)->setData(kFoundBy, foundBy[i]);
  showPrints();
  filterShelf();
  refreshShelf();
}

QListWidgetItem* LooksDialog::filterShelf() {
  // Beginnings of words: "low" is not what "below" is searched by.
  std::vector<QRegularExpression> words;
  for (const QString& word : search_->text().split(' ', Qt::SkipEmptyParts))
    words.emplace_back("\\b" + QRegularExpression::escape(word),
                       QRegularExpression::CaseInsensitiveOption | QRegularExpression::UseUnicodePropertiesOption);
  QListWidgetItem* first = nullptr;
  for (int i = 0; i < shelf_->count(); ++i) {
    QListWidgetItem* item = shelf_->item(i);
    const QString by = item->data(kFoundBy).toString();
    const bool found =
        std::all_of(words.begin(), words.end(), [&](const QRegularExpression& word) { return by.contains(word); });
    item->setHidden(!found);
    if (found && !first) first = item;
  }
  none_->setVisible(!first);
  return first;
}

// What is said of a look has their place meanwhile.
void LooksDialog::hideProposals() {
  for (Box& b : boxes_) b.box->hide();
  proposals_->hide();
}

// Proposals are whole plans, of the room and the sitter that they were asked for.
void LooksDialog::dropStaleProposals() {
  if (proposed_.empty() || !proposedFor_ || samePrints(*proposedFor_, viewed_->plan())) return;
  for (const Proposed& p : proposed_)
    if (p.plan == viewed_->plan()) return;
  proposed_.clear();
  hideProposals();
  state_->setText(tr("Sitter, room or lens have changed since: propose again."));
}

void LooksDialog::forgetProposals() {
  proposeTask_.cancel();
  ownTask_.cancel();
  proposed_.clear();
  hideProposals();
  state_->clear();
}

// Prints that are still on their way belong to a shelf that has changed.
void LooksDialog::stopPrinting() {
  ++printRound_;
  printTask_.cancel();
}

void LooksDialog::refreshShelf() {
  dropStaleProposals();
  // While a set is searched, both cores are the search's.
  if (!isVisible() || proposing()) return;
  const Plan here = viewed_->plan();
  if (!printedFor_ || !samePrints(*printedFor_, here)) {
    prints_.clear();
    stopPrinting();
    const ShelfPrints& kept = keptPrints();
    if (kept.of && samePrints(*kept.of, here)) {
      prints_ = kept.prints;
    }
    showPrints();
  }
  if (printTask_.running() || prints_.size() == shelf_->count()) return;
  printedFor_ = here;
  // Those that can be seen first.
  QStringList order = inView();
  for (int i = 0; i < shelf_->count(); ++i)
    if (const QString id = shelf_->item(i)->data(Qt::UserRole).toString(); !order.contains(id)) order << id;
  printTask_.start([this, here, order, own = own_, have = prints_.keys(),
                    round = printRound_](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    const auto put = [&](const std::string& name, const std::optional<Picture>& print) {
      QImage image(kPrintWidth, kPrintHeight, QImage::Format_RGB32);
      image.fill(Qt::gray);  // why is said when it is chosen
      if (print) image = imageOf(*print);
      QMetaObject::invokeMethod(
          this,
          [this, round, here, id = QString::fromStdString(name), image] {
            if (round != printRound_) return;
            prints_[id] = image;
            shelf_->setPicture(id, image);
            if (id == shelf_->current()) showLarge();
            keptPrints() = {here, prints_};
          },
          Qt::QueuedConnection);
      return go(0);
    };
    std::vector<ToPrint> sets;
    for (const QString& id : order) {
      if (have.contains(id)) continue;
      ToPrint one{id.toStdString(), findLook(id.toStdString())};
      try {
        if (!one.look) one.own = planForSitter(loadPlan(own[id.mid(4).toULongLong()].file), here);
      } catch (const std::exception&) {
        put(one.id, {});
        continue;
      }
      sets.push_back(std::move(one));
    }
    if (go(0)) printSets(std::move(sets), here, kPrintWidth, kPrintHeight, put);
    return {};
  });
}

void LooksDialog::showPrints() {
  shelf_->forgetPictures();
  for (auto print = prints_.constBegin(); print != prints_.constEnd(); ++print)
    shelf_->setPicture(print.key(), print.value());
  showLarge();
}

void LooksDialog::showLarge() {
  const QImage print = prints_.value(shelf_->current());
  large_->setPixmap(print.isNull() ? QPixmap() : QPixmap::fromImage(print));
}

QStringList LooksDialog::inView() const {
  QStringList out;
  const QRect room = shelf_->viewport()->rect();
  for (int i = 0; i < shelf_->count(); ++i)
    if (shelf_->visualItemRect(shelf_->item(i)).intersects(room)) out << shelf_->item(i)->data(Qt::UserRole).toString();
  return out;
}

const Look* LooksDialog::look() const {
  const QListWidgetItem* item = shelf_->currentItem();
  return item ? findLook(item->data(Qt::UserRole).toString().toStdString()) : nullptr;
}
const OwnLook* LooksDialog::own() const {
  const QListWidgetItem* item = shelf_->currentItem();
  const QString id = item ? item->data(Qt::UserRole).toString() : QString();
  const size_t i = id.startsWith("own:") ? id.mid(4).toULongLong() : own_.size();
  return i < own_.size() ? &own_[i] : nullptr;
}

void LooksDialog::chooseLook(const QString& id) {
  for (int i = 0; i < shelf_->count(); ++i)
    if (shelf_->item(i)->data(Qt::UserRole).toString() == id) shelf_->setCurrentRow(i);
}

void LooksDialog::lookChosen() {
  const Look* l = look();
  const OwnLook* o = own();
  wishBox_->setVisible(l != nullptr);
  useOwn_->setVisible(o != nullptr);
  forget_->setEnabled(o != nullptr);
  showLarge();
  if (l) {
    QString steps;
    for (const std::string& s : l->steps) steps += "<li>" + QString::fromStdString(s).toHtmlEscaped() + "</li>";
    const QString terms = l->terms.empty() ? QString() : "<p><i>" + termsOf(*l).toHtmlEscaped() + "</i></p>";
    setMarkup(about_, QStringLiteral("<h3>%1</h3>%8<p>%2</p><ol>%3</ol><p><b>%4</b> %5</p><p><b>%6</b> %7</p>")
                          .arg(QString::fromStdString(l->name).toHtmlEscaped(),
                               QString::fromStdString(l->forWhat).toHtmlEscaped(), steps, tr("Levels:"),
                               QString::fromStdString(l->levels).toHtmlEscaped(), tr("Watch:"),
                               QString::fromStdString(l->mistakes).toHtmlEscaped(), terms));
    pattern_->setEnabled(l->pattern != FacePattern::None && !l->profile);
  } else if (o) {
    const QString notes =
        (o->plan.lights.size() == 1 ? tr("1 light. ") : tr("%n lights. ", nullptr, int(o->plan.lights.size()))) +
        QString::fromStdString(o->plan.notes).toHtmlEscaped();
    setMarkup(about_, QStringLiteral("<h3>%1</h3><p>%2</p><p>%3</p>")
                          .arg(QString::fromStdString(o->name).toHtmlEscaped(), notes,
                               tr("A look of your own: its lights are placed round the open plan's sitter. Heights "
                                  "follow the eyes; powers give the same levels.")));
  }
}

Wish LooksDialog::wish() const {
  Wish w;
  if (const Look* l = look()) w.look = l->id;
  if (const QString p = pattern_->currentData().toString(); pattern_->isEnabled() && !p.isEmpty())
    w.pattern = patternOfId(p.toStdString());
  const QString b = breadth_->currentData().toString();
  if (!b.isEmpty()) w.breadth = b == "broad" ? Breadth::Broad : b == "short" ? Breadth::Short : Breadth::Straight;
  const QString h = hardness_->currentData().toString();
  if (!h.isEmpty()) w.hardness = h == "soft" ? Hardness::Soft : h == "firm" ? Hardness::Firm : Hardness::Hard;
  w.tone = tone_->currentData().toString().toStdString();
  w.keyLeft = side_->currentData().toString() == "left";
  if (!ratio_->text().trimmed().isEmpty())
    w.ratioStops = readRatio(ratio_->text().trimmed().toStdString(), RatioSchool::UnitToUnit);
  if (!aperture_->text().trimmed().isEmpty()) w.aperture = readAperture(aperture_->text().trimmed().toStdString());
  return w;
}

void LooksDialog::proposeNow() {
  if (!look()) return;
  Wish w;
  try {
    w = wish();
  } catch (const std::exception& e) {
    state_->setText(QString::fromUtf8(e.what()));
    return;
  }
  proposed_.clear();
  proposedFor_ = viewed_->plan();
  hideProposals();
  state_->setText(tr("Searching..."));
  searching_ = true;
  stopPrinting();  // goes on afterwards with those that are missing
  propose_->setEnabled(false);
  stop_->setEnabled(true);
  proposeTask_.start([this, w, here = viewed_->plan(), spelling = Preferences::current().spelling()](
                         const BackgroundTask::Go& go) -> BackgroundTask::Done {
    auto found = propose(w, here, go, 3, spelling);
    std::vector<QImage> prints;
    for (const Proposed& p : found) prints.push_back(imageOf(renderPicture(p.plan, 240, 300, 8)));
    return [this, found = std::move(found), prints = std::move(prints)] {
      proposed_ = found;
      proposedPrints_ = prints;
      showProposals();
    };
  });
}

void LooksDialog::showProposals() {
  searching_ = false;
  int right = 0;
  for (const Proposed& p : proposed_) right += p.asAsked();
  state_->setText(proposed_.empty() ? tr("Nothing could be found.")
                  : right == 1      ? tr("1 set matches everything and has no fault.")
                  : right           ? tr("%n sets match everything and have no fault.", nullptr, right)
                                    : tr("No set matches everything: each lists its compromises."));
  proposals_->setVisible(!proposed_.empty());
  for (size_t i = 0; i < boxes_.size(); ++i) {
    Box& b = boxes_[i];
    b.box->setVisible(i < proposed_.size());
    if (i >= proposed_.size()) continue;
    const Proposed& p = proposed_[i];
    QString html = QStringLiteral("<b>%1</b><br>%2")
                       .arg(QString::fromStdString(p.reading.lighting.name).toHtmlEscaped(),
                            QString::fromStdString(p.name).toHtmlEscaped());
    for (const std::string& g : p.gave)
      html += "<br>" + tr("<b>Compromise:</b> %1").arg(QString::fromStdString(g).toHtmlEscaped());
    for (const std::string& r : p.reasons) html += "<br>" + QString::fromStdString(r).toHtmlEscaped();
    setMarkup(b.text, html);
    b.print->setPixmap(
        QPixmap::fromImage(proposedPrints_[i].scaled(b.print->size(), Qt::KeepAspectRatio, Qt::SmoothTransformation)));
  }
}

void LooksDialog::keepPlan() {
  bool ok = false;
  const QString name = QInputDialog::getText(this, tr("Save as a look"), tr("Name of the look"), QLineEdit::Normal,
                                             QString::fromStdString(viewed_->plan().title), &ok);
  if (!ok) return;
  listOwn([plan = viewed_->plan(), look = name.trimmed().toStdString()] { keepAsLook(plan, look); },
          [this, name = name.trimmed()] {
            for (size_t i = 0; i < own_.size(); ++i)
              if (own_[i].name == name.toStdString()) chooseLook(QStringLiteral("own:%1").arg(i));
            emit said(tr("Saved as a look: %1.").arg(name), false);
          });
}

void LooksDialog::forget() {
  if (const OwnLook* o = own()) listOwn([look = *o] { forgetLook(look); }, [this] { shelf_->setCurrentRow(0); });
}

}  // namespace easel::app
