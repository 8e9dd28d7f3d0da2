#include "paper/sheet_dialog.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPageLayout>
#include <QPainter>
#include <QPrintDialog>
#include <QPrinter>
#include <QProgressBar>
#include <QPushButton>
#include <QResizeEvent>
#include <QScrollArea>
#include <QScrollBar>
#include <QSettings>
#include <mutex>

#include "dialogs/ask_save_name.h"
#include "document/state_folder.h"
#include "render/picture_image.h"
#include "sheet/day_sheet.h"
#include "sheet/layout.h"
#include "shoot/order.h"
#include "widgets/attempt.h"
#include "widgets/theme.h"
#include "widgets/within_screen.h"

namespace easel::app {

SheetSubject sheetsOf(const Plan& plan, const SheetWish& wish, const QString& heading) {
  // Pictures and readings are the same for all three kinds.
  struct Once {
    std::mutex guard;
    std::unique_ptr<const PlanSheet> sheet;
  };
  const auto once = std::make_shared<Once>();
  const auto of = [once, plan, wish](const std::function<bool(double)>& go) -> const PlanSheet& {
    const std::lock_guard lock(once->guard);
    if (!once->sheet) once->sheet = std::make_unique<const PlanSheet>(planSheet(plan, wish, go));
    return *once->sheet;
  };
  const std::string name = heading.toStdString();
  SheetSubject s;
  s.title = heading.isEmpty() ? QString::fromStdString(plan.title) : heading;
  s.kinds = {{QStringLiteral("whole"), SheetDialog::tr("The whole sheet"),
              [of, name](const auto& go) { return pagesOf(of(go), name); }, "sheet"},
             {QStringLiteral("stand"), SheetDialog::tr("For the stand, two metres away"),
              [of, name](const auto& go) { return standPagesOf(of(go), name); }, "stand", QStringLiteral("stand")},
             {QStringLiteral("growing"), SheetDialog::tr("The picture as it grows"),
              [of](const auto& go) { return growingPagesOf(of(go)); }, "growing"}};
  s.attached = {attachedPlan(plan)};
  return s;
}

SheetSubject sheetsOf(const Day& day, const SheetWish& wish, double pace) {
  const Inventory kit = wish.kit;
  const Spelling spelling = wish.spelling;
  SheetSubject s;
  s.title = QString::fromStdString(day.title);
  s.kinds.push_back({QStringLiteral("day"), SheetDialog::tr("The day"),
                     [day, kit, spelling, pace](const std::function<bool(double)>& go) {
                       const Order planned = wholeDay(day, pace);
                       std::vector<Picture> prints;
                       for (const Turn& turn : planned.turns) {
                         if (!go(double(prints.size()) / double(planned.turns.size())))
                           throw std::runtime_error(SheetDialog::tr("The sheet was cancelled.").toStdString());
                         prints.push_back(renderPicture(day.looks[turn.look].plan, 200, 250, 8));
                       }
                       return dayPages(day, planned, prints, kit, spelling);
                     },
                     "day"});
  s.kinds.push_back({QStringLiteral("packing"), SheetDialog::tr("Packing list"),
                     [day, kit, spelling](const auto&) { return packingPages(day, kit, spelling); }, "packing"});
  for (const DayLook& l : day.looks) {
    const QString name = SheetDialog::tr("%1. %2").arg(QString::fromStdString(l.id), QString::fromStdString(l.name()));
    s.kinds.push_back({QString::fromStdString("look-" + l.id), name,
                       [plan = l.plan, w = wish, name](const auto& go) {
                         return pagesOf(planSheet(plan, w, go), name.toStdString());
                       },
                       "look-" + l.id});
  }
  s.all = [day, kit, spelling, pace, w = wish](const std::filesystem::path& folder, const SheetForm& form,
                                               const std::function<bool(double)>& go) {
    saveSheet(folder / sheetFileName(day.title, "day", "pdf"), dayPages(day, wholeDay(day, pace), {}, kit, spelling),
              form);
    saveSheet(folder / sheetFileName(day.title, "packing", "pdf"), packingPages(day, kit, spelling), form);
    size_t n = 2;
    const std::vector<std::string> names = sheetNames(day);
    for (size_t i = 0; i < day.looks.size(); ++i) {
      const DayLook& l = day.looks[i];
      const PlanSheet sheet =
          planSheet(l.plan, w, [&](double share) { return go((double(i) + share) / double(day.looks.size())); });
      saveSheet(folder / names[i], pagesOf(sheet, l.name()), form, {attachedPlan(l.plan)});
      ++n;
    }
    return n;
  };
  return s;
}

SheetDialog::SheetDialog(QWidget* parent) : QDialog(parent) {
  setObjectName("sheetWindow");
  auto* box = new QHBoxLayout(this);
  auto* left = new QVBoxLayout;
  auto* form = new QFormLayout;
  const auto combo = [&](const char* name, const QString& label) {
    auto* c = new QComboBox(this);
    c->setObjectName(name);
    c->setAccessibleName(label);
    c->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    form->addRow(label, c);
    return c;
  };
  form->setRowWrapPolicy(QFormLayout::WrapAllRows);
  kinds_ = combo("sheetKind", tr("&What"));
  papers_ = combo("sheetPaper", tr("&Paper"));
  for (const Paper& p : papers()) papers_->addItem(QString::fromStdString(p.name), QString::fromStdString(p.id));
  inks_ = combo("sheetInk", tr("&Ink"));
  inks_->addItem(tr("Black on white"));
  inks_->addItem(tr("Dim, for a dark studio"));
  QSettings settings;
  papers_->setCurrentIndex(std::max(0, papers_->findData(settings.value("sheet/paper", "a4"))));
  inks_->setCurrentIndex(settings.value("sheet/dim", false).toBool());
  left->addLayout(form);
  const auto button = [&](const char* name, const QString& text) {
    auto* b = new QPushButton(text, this);
    b->setObjectName(name);
    b->setAutoDefault(false);
    left->addWidget(b);
    return b;
  };
  print_ = button("sheetPrint", tr("P&rint..."));
  export_ = button("sheetExport", tr("&Export..."));
  export_->setToolTip(tr("PDF with the plan within it, HTML, SVG or PNG"));
  all_ = button("sheetAll", tr("Export &all..."));
  left->addStretch(1);
  state_ = new QLabel(this);
  state_->setObjectName("sheetState");
  state_->setWordWrap(true);
  left->addWidget(state_);
  progress_ = new QProgressBar(this);
  progress_->setRange(0, 100);
  progress_->setTextVisible(false);
  left->addWidget(progress_);
  stop_ = button("sheetStop", tr("&Stop"));
  box->addLayout(left);
  scroll_ = new QScrollArea(this);
  scroll_->setObjectName("sheetPages");
  scroll_->setAccessibleName(tr("The sheet as it will be printed"));
  scroll_->setWidgetResizable(false);
  scroll_->setAlignment(Qt::AlignHCenter);
  box->addWidget(scroll_, 1);

  connect(kinds_, &QComboBox::activated, this, &SheetDialog::make);
  for (QComboBox* c : {papers_, inks_})
    connect(c, &QComboBox::activated, this, [this] {
      QSettings s;
      s.setValue("sheet/paper", papers_->currentData());
      s.setValue("sheet/dim", inks_->currentIndex() == 1);
      layOut();
    });
  connect(print_, &QPushButton::clicked, this, &SheetDialog::print);
  connect(export_, &QPushButton::clicked, this, &SheetDialog::exportSheet);
  connect(all_, &QPushButton::clicked, this, &SheetDialog::exportAll);
  connect(stop_, &QPushButton::clicked, this, [this] { work_.cancel(); });
  connect(&work_, &BackgroundTask::progressed, this, [this](double share) { progress_->setValue(int(100 * share)); });
  connect(&work_, &BackgroundTask::failed, this, [this](const QString& why) {
    state_->setText(why);
    emit said(why, true);
  });
  connect(&work_, &BackgroundTask::ended, this, [this] {
    progress_->hide();
    stop_->hide();
    emit arrived();
  });
  const QSize room = parent ? parent->window()->size() : QSize(1280, 800);
  resizeWithin(this, (QSize(940, 720) * Theme::current().scale).boundedTo(room));
}

void SheetDialog::present(const SheetSubject& subject) {
  subject_ = subject;
  setWindowTitle(tr("Sheet: %1").arg(subject_.title));
  const QString was = kinds_->currentData().toString();
  kinds_->clear();
  for (const auto& k : subject_.kinds) kinds_->addItem(k.name, k.id);
  kinds_->setCurrentIndex(std::max(0, kinds_->findData(was)));
  all_->setVisible(bool(subject_.all));
  show();
  raise();
  activateWindow();
  make();
}

void SheetDialog::choose(const QString& id) {
  kinds_->setCurrentIndex(std::max(0, kinds_->findData(id)));
  make();
}

const SheetSubject::Kind* SheetDialog::kind() const {
  const int i = kinds_->currentIndex();
  return i < 0 || i >= int(subject_.kinds.size()) ? nullptr : &subject_.kinds[size_t(i)];
}

SheetForm SheetDialog::form() const {
  const SheetSubject::Kind* k = kind();
  QString paper = papers_->currentData().toString();
  if (k && !k->paper.isEmpty() && paper == QStringLiteral("a4")) paper = k->paper;
  return {paperOf(paper.toStdString()), inks_->currentIndex() == 1 ? Ink::Dim : Ink::Black};
}

// The text first, which takes its time; then where it stands, which does not.
void SheetDialog::make() {
  const SheetSubject::Kind* k = kind();
  if (!k) return;
  pages_.reset();
  pictures_.clear();
  placePages();
  for (QPushButton* b : {print_, export_}) b->setEnabled(false);
  state_->setText(tr("Tracing the pictures..."));
  progress_->setValue(0);
  progress_->show();
  stop_->show();
  work_.start([this, make = k->make](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    const auto pages = std::make_shared<const Pages>(make(go));
    return [this, pages] {
      pages_ = pages;
      // After the task has ended, or it would end the next one.
      QMetaObject::invokeMethod(this, &SheetDialog::layOut, Qt::QueuedConnection);
    };
  });
}

void SheetDialog::layOut() {
  if (!pages_) return;
  const double scale = std::min(6.0, 620.0 * Theme::current().scale * devicePixelRatioF() / form().paper.width);
  work_.start([this, pages = pages_, f = form(), scale](const BackgroundTask::Go&) -> BackgroundTask::Done {
    std::vector<QImage> images;
    for (const Picture& p : sheetPictures(*pages, f.paper, f.ink, scale)) images.push_back(imageOf(p));
    return [this, images] {
      pictures_ = images;
      placePages();
      for (QPushButton* b : {print_, export_}) b->setEnabled(true);
      state_->setText(pictures_.size() == 1 ? tr("One page.") : tr("%1 pages.").arg(pictures_.size()));
    };
  });
}

void SheetDialog::placePages() {
  auto* pages = new QWidget;
  auto* box = new QVBoxLayout(pages);
  box->setSpacing(12);
  const int room = std::max(200, scroll_->viewport()->width() - 24);
  int n = 0;
  for (const QImage& image : pictures_) {
    auto* label = new QLabel(pages);
    label->setAccessibleName(tr("Page %1").arg(++n));
    QImage shown = image;
    const double dpr = devicePixelRatioF();
    if (image.width() > room * dpr) shown = image.scaledToWidth(int(room * dpr), Qt::SmoothTransformation);
    shown.setDevicePixelRatio(dpr);
    label->setPixmap(QPixmap::fromImage(shown));
    label->setFrameShape(QFrame::Box);
    box->addWidget(label);
  }
  pages->adjustSize();
  scroll_->setWidget(pages);
}

void SheetDialog::resizeEvent(QResizeEvent* e) {
  QDialog::resizeEvent(e);
  if (e->oldSize().width() != e->size().width()) placePages();
}

std::vector<std::filesystem::path> SheetDialog::exportTo(const std::filesystem::path& file) {
  if (!pages_) return {};
  return saveSheet(file, *pages_, form(), subject_.attached);
}

void SheetDialog::exportSheet() {
  const SheetSubject::Kind* k = kind();
  if (!k || !pages_) return;
  const QString start = QString::fromStdString(sheetFileName(subject_.title.toStdString(), k->word, "pdf"));
  const QString f = askSaveName(this, tr("Export the sheet"), start,
                                tr("PDF (*.pdf);;HTML (*.html);;SVG (*.svg);;PNG (*.png)"), QString());
  if (f.isEmpty()) return;
  std::filesystem::path path = pathOf(f);
  if (path.extension().empty()) path += ".pdf";
  state_->setText(tr("Writing..."));
  work_.start([this, path, pages = pages_, form = form(),
               attached = subject_.attached](const BackgroundTask::Go&) -> BackgroundTask::Done {
    const auto written = saveSheet(path, *pages, form, attached);
    return [this, written] {
      const QString sentence = written.size() == 1
                                   ? tr("The sheet is in %1.").arg(shownName(written.front().filename()))
                                   : tr("The sheet is in %1 and %2 more.")
                                         .arg(shownName(written.front().filename()))
                                         .arg(written.size() - 1);
      state_->setText(sentence);
      emit said(sentence, false);
    };
  });
}

void SheetDialog::exportAll() {
  const QString folder = QFileDialog::getExistingDirectory(this, tr("A folder for all sheets"));
  if (folder.isEmpty() || !subject_.all) return;
  state_->setText(tr("Tracing the pictures of every look..."));
  progress_->setValue(0);
  progress_->show();
  stop_->show();
  work_.start([this, path = pathOf(folder), form = form(),
               all = subject_.all](const BackgroundTask::Go& go) -> BackgroundTask::Done {
    const size_t n = all(path, form, go);
    return [this, n] {
      const QString sentence = tr("%1 sheets are written.").arg(n);
      state_->setText(sentence);
      emit said(sentence, false);
    };
  });
}

void SheetDialog::print() {
  auto* printer = new QPrinter(QPrinter::HighResolution);
  printer->setDocName(subject_.title);
  auto* ask = new QPrintDialog(printer, this);
  ask->setAttribute(Qt::WA_DeleteOnClose);
  connect(ask, &QDialog::accepted, this, [this, printer] {
    if (attempt([&] { printTo(*printer); }, [this](const QString& why) { emit said(why, true); }))
      emit said(tr("The sheet went to the printer."), false);
  });
  connect(ask, &QObject::destroyed, this, [printer] { delete printer; });
  ask->open();
}

void SheetDialog::printTo(QPrinter& printer) {
  if (!pages_) return;
  const SheetForm f = form();
  printer.setPageSize(QPageSize(QSizeF(f.paper.width, f.paper.height), QPageSize::Millimeter));
  printer.setFullPage(true);
  // 300 dots an inch: finer is seen by nobody at arm's length.
  const auto pictures = sheetPictures(*pages_, f.paper, Ink::Black, 300 / 25.4);
  QPainter painter(&printer);
  if (!painter.isActive())
    throw std::runtime_error(tr("The printer does not answer. Export a PDF instead.").toStdString());
  for (size_t i = 0; i < pictures.size(); ++i) {
    if (i) printer.newPage();
    painter.drawImage(QRectF(0, 0, printer.width(), printer.height()), imageOf(pictures[i]));
  }
}

}  // namespace easel::app
