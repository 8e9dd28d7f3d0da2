// A walk through every stage and page of the window at the sizes that people have: nothing is cut.
#include <gtest/gtest.h>

#include <QAbstractButton>
#include <QAbstractScrollArea>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QScrollBar>
#include <QSpinBox>
#include <QStyleOption>
#include <QTabBar>
#include <QTabWidget>
#include <QTableWidget>
#include <QTextDocument>
#include <initializer_list>

#include "dialogs/kit_dialog.h"
#include "dialogs/looks_dialog.h"
#include "dialogs/series_dialog.h"
#include "files/atomic_file.h"
#include "metering/run_card.h"
#include "plan/framing.h"
#include "widgets/fitted_label.h"
#include "widgets/painted.h"
#include "widgets/theme.h"
#include "widgets/wording.h"
#include "window_support.h"

namespace easel::app {
namespace {

QString whole(const QString& text) { return QString(text).remove('&'); }

// What the words of a widget need beyond what it has, in pixels; 0 when all can be read.
int lacking(QWidget* w) {
  const QFontMetrics m(w->font());
  if (auto* l = qobject_cast<FittedLabel*>(w))
    return l->objectName() == "answer" && !l->whole() ? l->fontMetrics().horizontalAdvance(l->words()) - l->width() : 0;
  if (auto* l = qobject_cast<QLabel*>(w)) {
    if (l->text().isEmpty() || l->pixmap().isNull() == false) return 0;
    const QRect room = l->contentsRect();
    if (l->wordWrap() || l->text().contains('<')) return std::max(0, l->heightForWidth(l->width()) - l->height() - 1);
    return std::max({0, m.horizontalAdvance(whole(l->text())) - room.width(), m.height() - room.height() - 1});
  }
  if (auto* b = qobject_cast<QAbstractButton*>(w)) {
    if (b->text().isEmpty()) return 0;
    // Half of what the style adds round the words may go before a letter does.
    const int needs = m.horizontalAdvance(whole(b->text()));
    const int frame = std::max(0, b->sizeHint().width() - needs);
    return std::max({0, needs + frame / 2 - b->width(), m.height() - b->height()});
  }
  if (auto* c = qobject_cast<QComboBox*>(w)) {
    QStyleOptionComboBox o;
    o.initFrom(c);
    const int room = c->style()->subControlRect(QStyle::CC_ComboBox, &o, QStyle::SC_ComboBoxEditField, c).width();
    return std::max({0, m.horizontalAdvance(c->currentText()) - room, m.height() - c->height()});
  }
  if (auto* s = qobject_cast<QAbstractSpinBox*>(w)) {
    if (s->specialValueText().isEmpty() && s->text().isEmpty()) return 0;
    auto* line = s->findChild<QLineEdit*>();
    return std::max({0, m.horizontalAdvance(s->text()) - (line->width() - 4), m.height() - s->height()});
  }
  if (auto* t = qobject_cast<QTableWidget*>(w)) return std::max(0, m.height() - t->rowHeight(0));
  if (auto* t = qobject_cast<QTabBar*>(w)) {
    int needs = 0;
    for (int i = 0; i < t->count(); ++i) needs = std::max(needs, t->tabRect(i).right());
    return std::max(0, needs - t->width());
  }
  return 0;
}

// Names that people gave may end in dots; a tip says them whole.
bool namedByPeople(const QWidget* w) {
  return w->objectName() == "title" || (qobject_cast<const QLabel*>(w) && !w->toolTip().isEmpty());
}

// Widgets that should stand in full on the screen, or within reach of a scroll bar.
QStringList cutIn(QWidget& window) {
  QStringList out;
  for (QWidget* w : window.findChildren<QWidget*>()) {
    if (!w->isVisibleTo(&window) || w->visibleRegion().isEmpty()) continue;
    if (const int by = lacking(w); by > 0 && !namedByPeople(w)) {
      QString words = w->property("text").toString();
      if (auto* c = qobject_cast<QComboBox*>(w)) words = c->currentText();
      out << QStringLiteral("%1 '%2' lacks %3").arg(w->metaObject()->className(), words.left(60)).arg(by);
    }
    // Out of its parent and no scroll bar: lost.
    if (QWidget* parent = w->parentWidget(); parent && !w->isWindow() && parent != &window) {
      auto* area = qobject_cast<QAbstractScrollArea*>(parent->parentWidget());
      if (area && area->viewport() == parent) continue;
      if (!parent->rect().adjusted(-1, -1, 1, 1).contains(w->geometry()) &&
          (qobject_cast<QLabel*>(w) || qobject_cast<QAbstractButton*>(w) || qobject_cast<QComboBox*>(w) ||
           qobject_cast<QAbstractSpinBox*>(w)))
        out << QStringLiteral("%1 '%2' sticks out")
                   .arg(w->metaObject()->className(), w->property("text").toString().left(40));
    }
  }
  return out;
}

void nothingCut(QWidget& window, const QString& where) {
  for (int k = 0; k < 3; ++k) QCoreApplication::processEvents();  // what arrived last gets its place in the next round
  cramped().clear();
  (void)window.grab();
  for (const QString& words : cramped()) ADD_FAILURE() << qPrintable(where + "painted '" + words + "' does not fit");
  for (const QString& words : cutIn(window)) ADD_FAILURE() << qPrintable(where + words);
}

struct Size {
  const char* name;
  int width, height;
  double points;
};

// Four lights, with all that is read of them.
struct FourLights : Shown {
  FourLights() : Shown(true, {64, 80}) {
    window.files()->openFile(QString::fromStdString(test::demoFile("marrow-lane-master")));
    EXPECT_TRUE(settled());
    EXPECT_EQ(window.document()->plan().lights.size(), 4u);
    EXPECT_TRUE(eventually([&] { return window.renderLink()->latest()->table && readCardOf(window)->reading(); }));
    // A run stands in the middle, at a reading that cannot be the light alone: the longest words that it has.
    auto* run = window.findChild<MeteringRun*>();
    QTest::mouseClick(field<QPushButton>(window, "runBegin"), Qt::LeftButton);
    run->goTo(1);
    run->read(16);
    EXPECT_TRUE(eventually([&] { return run->on() && !run->working(); }));
  }
  void resize(const Size& size) {
    window.setTextSize(10);
    window.resize(size.width, size.height);
    window.setTextSize(size.points);
    QCoreApplication::processEvents();
    EXPECT_EQ(window.size(), QSize(size.width, size.height)) << "the window does not become that small";
  }
  void nothingCutOnAnyPage() {
    onEveryPage(window, [this](const QString& where) { nothingCut(window, where); });
  }
  ~FourLights() { window.setTextSize(10); }
};

// One window goes through all sizes, as a hand that drags its corner would have it: what costs time is what is read of
// the set, and that is the same in each.
class Walk : public ::testing::TestWithParam<Size> {
 protected:
  static std::unique_ptr<FourLights> window_;
  static bool onItsLongSide_;

  static void TearDownTestSuite() { window_.reset(); }
  static FourLights& fourLights() {
    if (!window_) window_ = std::make_unique<FourLights>(), onItsLongSide_ = false;
    window_->resize(GetParam());
    return *window_;
  }
};
std::unique_ptr<FourLights> Walk::window_;
bool Walk::onItsLongSide_ = false;

TEST_P(Walk, NothingIsCutInAnyStage) { fourLights().nothingCutOnAnyPage(); }

// The dialogs too, each as large as it likes to be and not larger than the window that opens it.
TEST_P(Walk, NothingIsCutInAnyDialog) {
  const Size size = GetParam();
  FourLights& s = fourLights();
  QTest::keyClick(&s.window, Qt::Key_K, Qt::ControlModifier);
  QTest::keyClick(&s.window, Qt::Key_R, Qt::ControlModifier);
  s.window.side()->openLooks();
  QTest::mouseClick(field<QPushButton>(s.window, "runDevices"), Qt::LeftButton);
  // With sessions in it, and what they teach.
  {
    Journal j(journalFile());
    for (const auto& entry : std::filesystem::directory_iterator(std::string(EASEL_SOURCE_DIR) + "/demo/sessions"))
      try {
        j.import(readWholeFile(entry.path()));
      } catch (const JournalError&) {  // there from the size before
      }
  }
  s.window.side()->openJournal();
  EXPECT_TRUE(eventually([&] { return !s.window.side()->journal()->working(); }));
  s.window.side()->journal()->showPage("Learned");
  for (QDialog* dialog :
       std::initializer_list<QDialog*>{s.window.side()->kit(), s.window.side()->series(), s.window.side()->looks(),
                                       s.window.side()->devices(), s.window.side()->journal()}) {
    ASSERT_TRUE(dialog);
    dialog->resize(dialog->size().boundedTo(s.window.size()));
    QCoreApplication::processEvents();
    EXPECT_LE(dialog->width(), size.width) << dialog->metaObject()->className();
    EXPECT_LE(dialog->height(), size.height) << dialog->metaObject()->className();
    nothingCut(*dialog, dialog->metaObject()->className() + QStringLiteral(": "));
    dialog->close();
  }
}

// Last, for the frame stays as it is.
TEST_P(Walk, NothingIsCutWithAPictureOnItsLongSide) {
  FourLights& s = fourLights();
  if (!onItsLongSide_) {
    const auto upright = readCardOf(s.window)->reading();
    s.window.document()->perform(SetCamera{inFrame(s.window.document()->plan(), 1.5)}, "frame");
    ASSERT_TRUE(
        eventually([&] { return readCardOf(s.window)->reading() && readCardOf(s.window)->reading() != upright; }));
    onItsLongSide_ = true;
  }
  s.nothingCutOnAnyPage();
}

// What a photographer looks for in a set of four lights stands there without scrolling.
TEST(Walk, EveryFigureOfFourLightsStandsAt1280x800) {
  FourLights s;
  onEveryPage(s.window, [&](const QString& where) {
    for (auto* area : s.window.findChildren<QAbstractScrollArea*>())
      for (QScrollBar* bar : {area->verticalScrollBar(), area->horizontalScrollBar()})
        EXPECT_TRUE(!area->isVisible() || bar->maximum() == bar->minimum())
            << bar->maximum() << (bar->orientation() == Qt::Vertical ? " down, " : " across, ") << qPrintable(where)
            << area->metaObject()->className() << " " << qPrintable(area->objectName());
  });
}

// Larger type puts the fields one under the other; with the type before they stand beside each other again.
TEST(Walk, ColumnsComeBackWithSmallerType) {
  Shown s;
  s.window.setStage(1);
  const auto beside = [&] {
    QCoreApplication::processEvents();
    auto* left = field<QWidget>(s.window, "unit");
    auto* right = field<QWidget>(s.window, "hour");
    return right->mapToGlobal(QPoint()).x() > left->mapToGlobal(QPoint()).x() + 20;
  };
  EXPECT_TRUE(beside());
  s.window.setTextSize(20);
  EXPECT_FALSE(beside());
  s.window.setTextSize(10);
  EXPECT_TRUE(beside());
}

INSTANTIATE_TEST_SUITE_P(Sizes, Walk,
                         ::testing::Values(Size{"w1024", 1024, 700, 10}, Size{"w1280", 1280, 800, 10},
                                           Size{"w1920at200", 960, 540, 10}, Size{"w1920", 1920, 1080, 10},
                                           Size{"w2560", 2560, 1440, 10}, Size{"large1280", 1280, 800, 16},
                                           Size{"large1024", 1024, 700, 16}, Size{"large2560", 2560, 1440, 16}),
                         [](const auto& info) { return std::string(info.param.name); });

}  // namespace
}  // namespace easel::app
