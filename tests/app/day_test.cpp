// The lighting day in the window: compare, ratios, series, camera, pins, locks.
#include <gtest/gtest.h>

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTabWidget>
#include <QTableWidget>
#include <cmath>

#include "balance/backdrop_tone.h"
#include "balance/balance.h"
#include "meter/spots.h"
#include "plan/pins.h"
#include "widgets/fields.h"
#include "widgets/wording.h"
#include "window_support.h"

namespace easel::app {
namespace {

struct Master : Shown {
  Master() : Shown(false) {
    window.files()->openFile(QString::fromStdString(test::demoFile("marrow-lane-master")));
    EXPECT_TRUE(settled());
  }
  const Plan& plan() { return window.document()->plan(); }
  template <class T>
  T* field(const char* name) {
    T* f = window.findChild<T*>(name);
    EXPECT_NE(f, nullptr) << name;
    return f;
  }
  void choose(const char* name, const QString& id) {
    auto* box = field<QComboBox>(name);
    const int at = box->findData(id);
    ASSERT_GE(at, 0) << id.toStdString();
    box->setCurrentIndex(at);
    emit box->activated(at);
  }
  void type(const char* name, const QString& text) {
    auto* f = field<QLineEdit>(name);
    f->setFocus();
    f->selectAll();
    QTest::keyClicks(f, text);
    QTest::keyClick(f, Qt::Key_Return);
  }
  /// The print of that index, once there are as many as wanted.
  void click(size_t print) {
    QTest::mouseClick(window.bench().ledge, Qt::LeftButton, {},
                      window.bench().ledge->printRect(print).center().toPoint());
  }
  double light() {
    const QImage p = window.bench().easel->picture();
    double sum = 0;
    for (int y = 0; y < p.height(); y += 8)
      for (int x = 0; x < p.width(); x += 8) sum += qGray(p.pixel(x, y));
    return sum;
  }
};

TEST(Day, RatioIsTypedInTheSchoolThatLeads) {
  Master m;
  m.window.setStage(1);
  QTest::keyClick(m.window.bench().ladder, Qt::Key_Down);
  ASSERT_EQ(m.window.selectedLight(), "B");
  m.choose("ratioSchool", "0");
  m.type("ratio", "4:1");
  EXPECT_NEAR(m.plan().light("B")->targetStops, -2, 1e-6);
  m.choose("ratioSchool", "1");
  m.type("ratio", "3:1");
  EXPECT_NEAR(m.plan().light("B")->targetStops, -1, 1e-6);
  ASSERT_TRUE(m.settled());
  EXPECT_NEAR(m.window.renderLink()->latest()->answers->light("B")->stopsFromWorking, -1, 0.06) << "the power follows";
  m.type("ratio", "1.5 stops");
  EXPECT_NEAR(m.plan().light("B")->targetStops, -1.5, 1e-6);
  m.type("ratio", "rubbish");
  EXPECT_NEAR(m.plan().light("B")->targetStops, -1.5, 1e-6);
  EXPECT_FALSE(m.window.notice().isEmpty());
  m.choose("ratioSchool", "0");
}

TEST(Day, TheCameraIsSetByEachSchool) {
  Master m;
  // The dome at the camera has key and fill; flat with the key, the fill from the side adds too little to close for.
  m.window.document()->perform(SetReceptor{Receptor::Dome, MeterAim::Camera}, "dome");
  ASSERT_TRUE(m.settled());
  const auto answers = m.window.renderLink()->latest()->answers;
  m.window.document()->perform(SetLights{balance(m.plan(), *answers, BalanceBy::EachAlone).lights}, "balance");
  ASSERT_TRUE(m.settled());
  m.window.setStage(2);
  QTest::mouseClick(m.field<QPushButton>("cameraSchool1"), Qt::LeftButton);
  EXPECT_GT(m.plan().camera.closedBy, 0.3);
  ASSERT_TRUE(m.settled());
  QTest::mouseClick(m.field<QPushButton>("cameraSchool0"), Qt::LeftButton);
  EXPECT_EQ(m.plan().camera.closedBy, 0);
  ASSERT_TRUE(m.settled());
  const double power = m.plan().lights[0].power;
  QTest::mouseClick(m.field<QPushButton>("cameraSchool2"), Qt::LeftButton);
  EXPECT_LT(m.plan().lights[0].power, power - 0.3);
  m.window.document()->undo();
  EXPECT_EQ(m.plan().lights[0].power, power);
}

TEST(Day, RatiosAreTriedThenTaken) {
  Master m;
  QTest::keyClick(&m.window, Qt::Key_R);
  ASSERT_TRUE(eventually([&] { return m.window.bench().ledge->printCount() == 5; }));
  const Plan before = m.plan();
  m.click(4);
  EXPECT_TRUE(m.window.bench().onEasel->tryingOut());
  EXPECT_TRUE(m.plan() == before) << "a try-out changes nothing";
  ASSERT_TRUE(eventually([&] { return m.window.renderLink()->upToDate(); }));
  const double dark = m.light();
  QTest::keyClick(&m.window, Qt::Key_Escape);
  EXPECT_FALSE(m.window.bench().onEasel->tryingOut());
  ASSERT_TRUE(m.settled());
  EXPECT_GT(m.light(), dark) << "16:1 is darker than the plan's own fill";
  m.click(2);
  QTest::keyClick(m.window.bench().ledge, Qt::Key_Return);
  EXPECT_NEAR(m.plan().light("B")->targetStops, -2, 0.06);
  EXPECT_FALSE(m.window.bench().onEasel->tryingOut());
  m.window.document()->undo();
  EXPECT_TRUE(m.plan() == before) << "one step";
}

TEST(Day, WipeAndFlipWantAKeptPicture) {
  Master m;
  QTest::keyClick(&m.window, Qt::Key_W);
  EXPECT_EQ(m.window.bench().easel->compare(), EaselView::Compare::Off);
  EXPECT_TRUE(m.window.notice().contains("K"));
  QTest::keyClick(&m.window, Qt::Key_K);
  QTest::keyClick(&m.window, Qt::Key_W);
  EXPECT_EQ(m.window.bench().easel->compare(), EaselView::Compare::Wipe);
  // Now the key alone off: the left half still shows what was kept.
  QTest::keyClick(&m.window, Qt::Key_1);
  ASSERT_TRUE(m.settled());
  const QRectF r = m.window.bench().easel->pictureRect();
  const QImage shown = m.window.bench().easel->grab().toImage();
  auto gray = [&](double x) {
    return qGray(shown.pixel(int(r.left() + x * r.width()), int(r.top() + 0.42 * r.height())));
  };
  EXPECT_GT(gray(0.47), gray(0.56) + 15);
  Shown::drag(m.window.bench().easel, QPointF(r.center().x(), r.center().y()),
              QPointF(r.left() + 0.8 * r.width(), r.center().y()));
  EXPECT_NEAR(m.window.bench().easel->wipe(), 0.8, 0.02);
  QTest::keyClick(&m.window, Qt::Key_F);
  EXPECT_EQ(m.window.bench().easel->compare(), EaselView::Compare::Flip);
  QTest::keyClick(&m.window, Qt::Key_Escape);
  EXPECT_EQ(m.window.bench().easel->compare(), EaselView::Compare::Off);
}

TEST(Day, PinsByShiftClickOnEaselAndDialComeIntoTheTable) {
  Master m;
  m.window.setStage(2);
  auto* table = m.field<QTableWidget>("spotTable");
  ASSERT_TRUE(eventually([&] { return table->rowCount() >= 15; }));
  const int rows = table->rowCount();
  EXPECT_EQ(table->columnCount(), 6) << "together, four lights, ambient";
  const QRectF r = m.window.bench().easel->pictureRect();
  QTest::mouseClick(m.window.bench().easel, Qt::LeftButton, Qt::ShiftModifier, r.center().toPoint());
  ASSERT_EQ(m.plan().spots.size(), 1u);
  m.window.setStage(1);  // where the dial stands
  QTest::mouseClick(m.window.bench().dial, Qt::LeftButton, Qt::ShiftModifier,
                    m.window.bench().dial->toWidget(1.3, -0.3).toPoint());
  ASSERT_EQ(m.plan().spots.size(), 2u);
  EXPECT_NEAR(m.plan().spots[1].x, 1.3, 0.02);
  ASSERT_TRUE(eventually([&] { return table->rowCount() == rows + 2; }));
  EXPECT_FALSE(table->item(rows, 0)->text().isEmpty());
  table->setCurrentCell(rows, 0);
  for (QAction* a : table->actions()) a->trigger();
  EXPECT_EQ(m.plan().spots.size(), 1u);
  m.window.document()->undo();
  EXPECT_EQ(m.plan().spots.size(), 2u);
}

TEST(Day, ALockedLightStaysAndSaysSo) {
  Master m;
  QTest::keyClick(&m.window, Qt::Key_K, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_TRUE(m.key().locked);
  const Light before = m.key();
  DialView* dial = m.window.bench().dial;
  Shown::drag(dial, dial->handleOf(before), dial->toWidget(-1, 1));
  EXPECT_EQ(m.key().hour, before.hour);
  EXPECT_TRUE(m.window.notice().contains("locked")) << m.window.notice().toStdString();
  QTest::keyClick(&m.window, Qt::Key_Backspace, Qt::ControlModifier);
  EXPECT_EQ(m.plan().lights.size(), 4u);
  QTest::keyClick(&m.window, Qt::Key_1);
  EXPECT_FALSE(m.key().on) << "it can still be switched";
  QTest::keyClick(&m.window, Qt::Key_K, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_FALSE(m.key().locked);
}

TEST(Day, PrintsAreDraggedIntoAnotherBuildingOrder) {
  Master m;
  LedgeView* ledge = m.window.bench().ledge;
  ASSERT_TRUE(eventually([&] { return ledge->printCount() == 6; }));
  Shown::drag(ledge, ledge->printRect(3).center(), ledge->printRect(1).center() - QPointF(20, 0));
  std::string order;
  for (const Light& l : m.plan().lights) order += l.id;
  EXPECT_EQ(order, "ADBC");
  m.window.document()->undo();
  EXPECT_EQ(m.plan().lights[1].id, "B");
  QTest::keyClick(&m.window, Qt::Key_Down, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_EQ(m.plan().lights[1].id, "A") << "the chosen light is built later";
}

TEST(Day, CopySwapAndPosture) {
  Master m;
  QTest::keyClick(&m.window, Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_EQ(m.plan().lights.size(), 5u);
  EXPECT_EQ(m.window.selectedLight(), "E");
  QTest::keyClick(&m.window, Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  EXPECT_NEAR(m.plan().lights[0].hour, 7.5, 1e-9);
  EXPECT_EQ(m.plan().sitter.turn, 8);
  const double eyes = m.plan().sitter.eyeHeight, key = m.plan().lights[0].height;
  m.choose("posture", "standing");
  EXPECT_GT(m.plan().sitter.eyeHeight, eyes + 0.2);
  EXPECT_GT(m.plan().lights[0].height, key + 0.1);
}

TEST(Day, TheOtherSchoolIsOneKeyAway) {
  Shown s(false);
  QTest::keyClick(&s.window, Qt::Key_L, Qt::ControlModifier);
  ASSERT_EQ(s.window.selectedLight(), "B");
  const Light before = *s.window.document()->plan().light("B");
  QTest::keyClick(&s.window, Qt::Key_T, Qt::ControlModifier);
  EXPECT_NE(s.window.document()->plan().light("B")->hour, before.hour);
  EXPECT_TRUE(s.window.notice().contains("key's side")) << s.window.notice().toStdString();
  s.window.document()->undo();
  EXPECT_TRUE(*s.window.document()->plan().light("B") == before);
}

TEST(Day, TheSetPageDressesTheSitter) {
  Master m;
  m.window.setStage(0);
  const Plan before = m.plan();
  const std::pair<const char*, const char*> choices[] = {
      {"outfit", "suit"},   {"cloth", "velvet"},  {"clothColour", "velvet-black"},
      {"glasses", "round"}, {"hairStyle", "bob"}, {"beard", "short"},
      {"hat", "felt"}};
  for (const auto& [field, id] : choices) m.choose(field, id);
  const SitterPlace& s = m.plan().sitter;
  EXPECT_EQ(s.outfit + " " + s.cloth + " " + s.clothColour + " " + s.glasses + " " + s.hairStyle,
            "suit velvet velvet-black round bob");
  ASSERT_TRUE(m.settled());
  m.field<NumberField>("templesUp")->setValue(4);
  EXPECT_EQ(m.plan().sitter.templesUp, 4);
  EXPECT_EQ(m.plan().sitter.beard + " " + m.plan().sitter.hat, "short felt");
  m.field<NumberField>("hatBack")->setValue(10);
  EXPECT_EQ(m.plan().sitter.hatBack, 10);
  for (size_t i = 0; i < std::size(choices) + 2; ++i) m.window.document()->undo();
  EXPECT_TRUE(m.plan() == before);
}

TEST(Day, TheSetPagePosesTheSitter) {
  Master m;
  m.window.setStage(0);
  const Plan before = m.plan();
  m.choose("pose", "folded");
  m.choose("expression", "smile");
  m.field<NumberField>("shoulders")->setValue(35);
  m.field<NumberField>("lean")->setValue(6);
  const SitterPlace& s = m.plan().sitter;
  EXPECT_EQ(s.pose + " " + s.expression, "folded smile");
  EXPECT_EQ(s.shoulders, 35);
  EXPECT_EQ(s.lean, 6);
  EXPECT_EQ(s.turn, before.sitter.turn) << "the head keeps its own";
  ASSERT_TRUE(m.settled());
  for (int i = 0; i < 4; ++i) m.window.document()->undo();
  EXPECT_TRUE(m.plan() == before);
}

TEST(Day, SetPageDrivesLooksFramingAmbientAndBackdrop) {
  Master m;
  m.window.setStage(0);
  const double before = m.light();
  m.choose("skinTone", "6-darkest");
  m.choose("hairColour", "black");
  ASSERT_TRUE(m.settled());
  EXPECT_LT(m.light(), before);
  const double distance = m.plan().camera.distance;
  m.choose("framing", "half");
  EXPECT_GT(m.plan().camera.distance, distance + 0.5);
  m.type("ambient", "f/2.8 at 1/15");
  EXPECT_NEAR(m.plan().ambient.lux, 320, 1);
  m.type("ambient", "nonsense");
  EXPECT_NEAR(m.plan().ambient.lux, 320, 1);
  ASSERT_TRUE(m.settled());
  m.choose("wantedTone", "light-grey");
  ASSERT_TRUE(m.settled());
  const auto answers = m.window.renderLink()->latest()->answers;
  EXPECT_EQ(toneName(answers->backdropValue), "light grey");
}

TEST(Day, PinsAreFlatOrDomeAndTheCameraIsWhatItIs) {
  Master m;
  m.window.setStage(2);
  m.window.document()->perform(SetSpots{{pinInAir(m.plan(), 0.4, 0.5)}}, "Pin");
  ASSERT_TRUE(m.settled());
  auto* table = m.field<QTableWidget>("spotTable");
  const auto rowOf = [&](const char* id) {
    for (int row = 0; row < table->rowCount(); ++row)
      if (table->verticalHeaderItem(row) && table->verticalHeaderItem(row)->data(Qt::UserRole).toString() == id)
        return row;
    return -1;
  };
  ASSERT_TRUE(eventually([&] { return rowOf("pin-1") >= 0; }));
  EXPECT_EQ(rowOf("meter"), 0) << "as the camera is set by, first";
  EXPECT_TRUE(table->verticalHeaderItem(0)->text().contains("flat, towards A"));
  table->setCurrentCell(rowOf("pin-1"), 0);
  const QString flat = table->item(rowOf("pin-1"), 0)->text();
  auto* dome = table->findChild<QAction*>("pinReceptor");
  ASSERT_TRUE(dome);
  EXPECT_EQ(dome->shortcut(), QKeySequence(Qt::Key_D));
  dome->trigger();
  ASSERT_EQ(m.plan().spots[0].receptor, Receptor::Dome);
  ASSERT_TRUE(eventually([&] {
    const int row = rowOf("pin-1");
    return row >= 0 && table->verticalHeaderItem(row)->text().contains("(dome)") && table->item(row, 0)->text() != flat;
  }));
  m.window.document()->undo();
  EXPECT_EQ(m.plan().spots[0].receptor, Receptor::Flat);
  // The lens that keeps its angle gives a lighter, wider picture; the modelling lamp burns on by a tick.
  m.window.setStage(0);
  m.choose("focusing", "keeps");
  EXPECT_FALSE(m.plan().camera.extends);
  m.window.document()->undo();
  m.window.setStage(1);
  auto* modelling = m.window.findChild<QCheckBox*>("modelling");
  ASSERT_TRUE(modelling);
  modelling->click();
  EXPECT_TRUE(m.plan().light("A")->modelling);
}

TEST(Day, OverlaysSwitchByKeys) {
  Master m;
  QTest::keyClick(&m.window, Qt::Key_S);
  EXPECT_TRUE(m.window.bench().easel->tools().stopsMap);
  ASSERT_TRUE(eventually([&] { return !m.window.renderLink()->latest()->map.rgba.empty(); }));
  QTest::keyClick(&m.window, Qt::Key_H);
  EXPECT_TRUE(m.window.bench().easel->tools().histogram);
  EXPECT_FALSE(m.window.grab().isNull());
  QTest::keyClick(&m.window, Qt::Key_S);
  EXPECT_FALSE(m.window.bench().easel->tools().stopsMap);
}

TEST(Day, ASeriesComesToTheLedgeAndOntoASheet) {
  test::TemporaryFolder folder;
  Master m;
  QTest::keyClick(&m.window, Qt::Key_R, Qt::ControlModifier);
  SeriesDialog* d = m.window.side()->series();
  ASSERT_TRUE(d);
  EXPECT_FALSE(d->isModal()) << "the picture stays in reach";
  d->findChild<QSpinBox*>("seriesCount")->setValue(2);
  d->setPrints({320, 400}, 3);
  QTest::mouseClick(d->findChild<QPushButton*>("seriesMake"), Qt::LeftButton);
  ASSERT_TRUE(eventually([&] { return m.window.bench().ledge->series().size() == 2; }));
  EXPECT_EQ(m.window.bench().ledge->mode(), LedgeView::Mode::Series);
  const QString file = QString::fromStdString((folder.path / "sheet.png").string());
  auto save = [&](const QString& to, const QString& words) {
    ASSERT_TRUE(eventually([&] { return !d->running(); }));
    d->saveSheetTo(to);
    ASSERT_TRUE(eventually([&] { return m.window.notice().contains(words); })) << m.window.notice().toStdString();
  };
  save(file, "sheet.png");
  EXPECT_GT(QImage(file).width(), 640);
  save("/nowhere/at/all.png", "nowhere");
  const Plan before = m.plan();
  m.click(0);
  EXPECT_TRUE(m.window.bench().onEasel->tryingOut());
  QTest::keyClick(m.window.bench().ledge, Qt::Key_Return);
  EXPECT_NE(m.plan().lights[0].distance, before.lights[0].distance);
}

}  // namespace
}  // namespace easel::app
