// A language that writes every letter of a translatable text in another script: what is still in Latin letters on any
// page of any window came past the translators.
//
// In a program of its own: names of things are asked for once, with the first window.
#include <gtest/gtest.h>

#include <QAbstractItemModel>
#include <QAbstractItemView>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QGroupBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPaintEngine>
#include <QPainter>
#include <QPushButton>
#include <QRegularExpression>
#include <QSpinBox>
#include <QTabBar>
#include <QTextEdit>
#include <QTranslator>
#include <set>

#include "dialogs/devices_dialog.h"
#include "dialogs/kit_dialog.h"
#include "dialogs/looks_dialog.h"
#include "dialogs/series_dialog.h"
#include "formats/day_json.h"
#include "metering/run_card.h"
#include "other_letters.h"
#include "plan/panels.h"
#include "sitters/people.h"
#include "spoken/say.h"
#include "window_support.h"

namespace easel::app {
namespace {

class OtherLetters : public QTranslator {
 public:
  bool isEmpty() const override { return false; }
  QString translate(const char*, const char* english, const char*, int) const override {
    return QString::fromStdString(test::inOtherLetters(english));
  }
};

// Takes nothing but the words that are painted.
class Words : public QPaintDevice {
 public:
  explicit Words(QSize size) : engine_(*this), size_(size) {}
  QPaintEngine* paintEngine() const override { return &engine_; }
  QStringList all;

 protected:
  int metric(PaintDeviceMetric m) const override {
    switch (m) {
      case PdmWidth:
        return size_.width();
      case PdmHeight:
        return size_.height();
      case PdmDpiX:
      case PdmDpiY:
      case PdmPhysicalDpiX:
      case PdmPhysicalDpiY:
        return 96;
      case PdmDepth:
        return 32;
      case PdmDevicePixelRatio:
        return 1;
      default:
        return QPaintDevice::metric(m);
    }
  }

 private:
  class Engine : public QPaintEngine {
   public:
    explicit Engine(Words& to) : QPaintEngine(AllFeatures), to_(to) {}
    bool begin(QPaintDevice*) override { return true; }
    bool end() override { return true; }
    void updateState(const QPaintEngineState&) override {}
    void drawPixmap(const QRectF&, const QPixmap&, const QRectF&) override {}
    void drawPath(const QPainterPath&) override {}
    void drawPolygon(const QPointF*, int, PolygonDrawMode) override {}
    void drawTextItem(const QPointF&, const QTextItem& item) override { to_.all << item.text(); }
    Type type() const override { return User; }

   private:
    Words& to_;
  };
  mutable Engine engine_;
  QSize size_;
};

// People's, and those of days and months, which are the locale's.
std::set<std::string> names() {
  std::set<std::string> all;
  for (const Person& p : sitterCatalogue()) all.insert(p.name);
  const QLocale locale;
  const auto insert = [&](const QString& name) {
    for (const QString& word : name.split(QRegularExpression("[^A-Za-z]+"))) all.insert(word.toStdString());
  };
  for (const auto form : {QLocale::LongFormat, QLocale::ShortFormat}) {
    for (int i = 1; i <= 7; ++i) insert(locale.dayName(i, form));
    for (int i = 1; i <= 12; ++i) insert(locale.monthName(i, form));
  }
  return all;
}

class OtherLanguage : public ::testing::Test {
 protected:
  static void SetUpTestSuite() {
    static OtherLetters letters;
    QCoreApplication::installTranslator(&letters);
    speakThrough([](std::string_view english, int) { return test::inOtherLetters(english); });
  }

  void look(const QString& where, const QString& text) {
    static const std::set<std::string> known = names();
    const std::string word = test::latinWord(text.toStdString(), known);
    const QString seen = text.simplified().left(120);
    if (!word.empty() && found_.insert(seen).second)
      ADD_FAILURE() << qPrintable(where) << ": '" << word << "' in '" << qPrintable(seen) << "'";
  }

  // All that one of the window's parts can say, shown or not.
  void lookAt(const QWidget& w, const QString& where) {
    const QString at = where + w.metaObject()->className() + " " + w.objectName();
    for (const QString& text :
         {w.windowTitle(), w.toolTip(), w.accessibleName(), w.accessibleDescription(), w.statusTip(), w.whatsThis()})
      look(at, text);
    if (!qobject_cast<const QLineEdit*>(&w) && !qobject_cast<const QAbstractSpinBox*>(&w))
      for (const char* property : {"text", "title", "placeholderText"}) look(at, w.property(property).toString());
    for (const char* property : {"prefix", "suffix", "specialValueText", "placeholderText"})
      look(at, w.property(property).toString());
    if (const auto* tabs = qobject_cast<const QTabBar*>(&w))
      for (int i = 0; i < tabs->count(); ++i) look(at, tabs->tabText(i) + " " + tabs->tabToolTip(i));
    if (const auto* box = qobject_cast<const QComboBox*>(&w))
      for (int i = 0; i < box->count(); ++i)
        look(at, box->itemText(i) + " " + box->itemData(i, Qt::ToolTipRole).toString());
    if (const auto* view = qobject_cast<const QAbstractItemView*>(&w); view && view->model()) lookAtModel(*view, at);
    for (const QAction* a : w.actions()) look(at + " action", a->text() + " " + a->toolTip() + " " + a->statusTip());
  }
  void lookAtModel(const QAbstractItemView& view, const QString& at) {
    const QAbstractItemModel& m = *view.model();
    for (const auto way : {Qt::Horizontal, Qt::Vertical})
      for (int i = 0; i < (way == Qt::Horizontal ? m.columnCount() : m.rowCount()); ++i)
        for (const int role : {int(Qt::DisplayRole), int(Qt::ToolTipRole)})
          look(at, m.headerData(i, way, role).toString());
    for (int row = 0; row < m.rowCount(); ++row)
      for (int column = 0; column < m.columnCount(); ++column)
        for (const int role : {int(Qt::DisplayRole), int(Qt::ToolTipRole), int(Qt::AccessibleTextRole)})
          look(at, m.index(row, column).data(role).toString());
  }

  void lookAtAll(QWidget& window, const QString& where) {
    for (int k = 0; k < 3; ++k) QCoreApplication::processEvents();
    lookAt(window, where);
    for (const QWidget* w : window.findChildren<QWidget*>()) lookAt(*w, where);
    for (const QAction* a : window.findChildren<QAction*>())
      look(where + "action", a->text() + " " + a->toolTip() + " " + a->statusTip());
    if (qobject_cast<const DevicesDialog*>(&window)) return;  // it paints a path of this machine, line by line
    Words painted(window.size());
    window.render(&painted);
    for (const QString& words : painted.all) look(where + "painted", words);
  }

 private:
  std::set<QString> found_;
};

// A set with all kinds of things in it, that is read.
struct Foreign : Shown {
  explicit Foreign(const Plan& plan = test::masterPlan()) : Shown(false, {64, 80}) {
    window.document()->startFrom(test::turned(plan));
    EXPECT_TRUE(settled());
    EXPECT_TRUE(eventually([&] { return window.renderLink()->latest()->table && readCardOf(window)->reading(); }));
  }
};

TEST_F(OtherLanguage, EveryPageOfEveryStage) {
  Foreign s;
  onEveryPage(s.window, [&](const QString& where) { lookAtAll(s.window, where); });
}

// With a run in the middle of it, and as much wrong as goes into one set.
TEST_F(OtherLanguage, EveryPageOfASetThatIsWrong) {
  Plan p = test::masterPlan();
  p.lights[0].height = p.sitter.eyeHeight + 1.1;
  p.lights[0].fittings.gel = "amber";
  p.camera.shutter = 1.0 / 30;
  p.ambient.lux = 400;
  p.panels.push_back(proposePanel(p, "v-flat").panel);
  PinnedSpot pin;
  pin.id = "pin-1";
  pin.name = "Pin";
  pin.y = 1.2;
  p.spots.push_back(pin);
  Foreign s(p);
  auto* run = s.window.findChild<MeteringRun*>();
  QTest::mouseClick(field<QPushButton>(s.window, "runBegin"), Qt::LeftButton);
  run->goTo(1);
  run->read(16);
  EXPECT_TRUE(eventually([&] { return run->on() && !run->working(); }));
  onEveryPage(s.window, [&](const QString& where) { lookAtAll(s.window, where); });
}

TEST_F(OtherLanguage, EveryWindowThatAPlanOpens) {
  Foreign s;
  QTest::keyClick(&s.window, Qt::Key_K, Qt::ControlModifier);
  QTest::keyClick(&s.window, Qt::Key_R, Qt::ControlModifier);
  s.window.side()->openLooks();
  QTest::mouseClick(field<QPushButton>(s.window, "runDevices"), Qt::LeftButton);
  s.window.side()->openJournal();
  EXPECT_TRUE(eventually([&] { return !s.window.side()->journal()->working(); }));
  s.window.side()->openSheet();
  EXPECT_TRUE(
      eventually([&] { return !s.window.side()->sheet()->working() && s.window.side()->sheet()->pageCount() > 0; }));
  for (QDialog* dialog : std::initializer_list<QDialog*>{s.window.side()->kit(), s.window.side()->series(),
                                                         s.window.side()->looks(), s.window.side()->devices(),
                                                         s.window.side()->journal(), s.window.side()->sheet()}) {
    ASSERT_TRUE(dialog);
    lookAtAll(*dialog, dialog->metaObject()->className() + QStringLiteral(": "));
    dialog->close();
  }
}

TEST_F(OtherLanguage, EveryPageOfADay) {
  const test::TemporaryFolder folder;
  const auto file = folder.path / "1.day.json";
  saveDay(file,
          test::turned(loadDay(std::string(EASEL_SOURCE_DIR) + "/demo/open-day/marrow-lane-open-day.day.json").day));
  DayWindow window([] { return std::vector<DayWindow::OpenPlan>(); });
  window.setQuiet(true);
  window.show();
  ASSERT_TRUE(window.openFile(file));
  ASSERT_TRUE(eventually([&] { return window.desk()->current() && !window.working(); }));
  for (const char* page : {"Order", "People", "Clock", "Packing", "Load"}) {
    window.showPage(page);
    lookAtAll(window, QString::fromLatin1(page) + ": ");
  }
}

}  // namespace
}  // namespace easel::app
