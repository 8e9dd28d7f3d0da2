// The Read page and the shelf of looks, driven in the real window.
#include <gtest/gtest.h>

#include <QCheckBox>
#include <QComboBox>
#include <QImage>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QTabWidget>
#include <QTest>
#include <QTimer>
#include <fstream>

#include "formats/own_looks.h"
#include "support.h"
#include "widgets/theme.h"
#include "window/main_window.h"
#include "window_support.h"

namespace easel::app {
namespace {

struct Reader : Shown {
  Reader() : Shown(false) {
    window.files()->openFile(QString::fromStdString(test::demoFile("marrow-lane-master")));
    window.showStage(QStringLiteral("Read"));
  }
  const Plan& plan() { return window.document()->plan(); }
  template <class T>
  T* field(const char* name) {
    T* f = window.findChild<T*>(name);
    EXPECT_NE(f, nullptr) << name;
    return f;
  }
  // The reading of the plan as it is now.
  bool read(const Plan* before = nullptr) {
    static_cast<void>(before);
    return eventually([&] {
      const auto& r = readCardOf(window)->reading();
      return r && window.bench().reading->current();
    });
  }
};

TEST(ReadPage, NamesThePatternAndShowsTheWaysToOthers) {
  Reader w;
  ASSERT_TRUE(w.read());
  EXPECT_EQ(w.field<QLabel>("patternName")->text(), "Loop");
  EXPECT_TRUE(w.field<QLabel>("patternSentence")->text().contains("degrees"));
  EXPECT_TRUE(w.window.bench().easel->evidence()->any()) << "the evidence lies on the picture";
  // Nothing has to be pressed.
  auto* ways = w.field<Gallery>("ways");
  ASSERT_TRUE(eventually([&] { return ways->count() > 0; }));
  QStringList ids;
  for (int i = 0; i < ways->count(); ++i) ids << ways->item(i)->data(Qt::UserRole).toString();
  EXPECT_TRUE(ids.contains("rembrandt-0") && ids.contains("rembrandt-1") && ids.contains("butterfly-0"))
      << qPrintable(ids.join(' '));
  EXPECT_FALSE(ids.contains("loop-0")) << "it is one";
  ASSERT_TRUE(eventually([&] { return ways->hasPicture("rembrandt-0"); }));
  const Plan before = w.plan();
  ways->setFocus();
  ways->setCurrent("rembrandt-1");
  QTest::keyClick(ways, Qt::Key_Left);
  ASSERT_EQ(ways->current(), "rembrandt-0");
  ASSERT_TRUE(eventually([&] { return w.window.bench().onEasel->tryingOut(); }))
      << "what the keys have reached is tried";
  EXPECT_EQ(w.plan(), before) << "shown, not yet taken";
  EXPECT_FALSE(w.window.bench().easel->evidence()->any()) << "what was read belongs to the other picture";
  QTest::keyClick(ways, Qt::Key_Escape);
  EXPECT_FALSE(w.window.bench().onEasel->tryingOut());
  QTest::keyClick(ways, Qt::Key_Return);
  EXPECT_FALSE(w.window.bench().onEasel->tryingOut());
  EXPECT_NE(w.plan().light("A")->hour, before.light("A")->hour);
  ASSERT_TRUE(w.read());
  EXPECT_EQ(w.field<QLabel>("patternName")->text(), "Rembrandt");
  w.window.document()->undo();
  EXPECT_EQ(w.plan(), before);
}

TEST(ReadPage, TheKeyIsDraggedOnTheMapAndTheLightGoesWithIt) {
  Reader w;
  ASSERT_TRUE(w.read());
  auto* map = w.field<PatternMapView>("patternMap");
  ASSERT_TRUE(eventually([&] { return map->map() != nullptr; }));
  const Plan before = w.plan();
  const Light a = *before.light("A");
  const FaceDirection from = map->keyPlace().value();
  Shown::drag(map, map->pointOf(from), map->pointOf({65, 25}));
  const FaceDirection now = map->keyPlace().value();
  EXPECT_NEAR(now.azimuth, 65, 1.5);
  EXPECT_NEAR(now.elevation, 25, 1.5);
  EXPECT_NE(w.plan().light("A")->hour, a.hour);
  EXPECT_NE(w.plan().light("A")->height, a.height);
  EXPECT_EQ(*w.plan().light("B"), *before.light("B"));
  EXPECT_TRUE(map->map()) << "the map is still this key's: it kept its distance";
  ASSERT_TRUE(w.read());
  EXPECT_EQ(w.field<QLabel>("patternName")->text(), "Rembrandt") << "as the map says of that place";
  w.window.document()->undo();
  EXPECT_EQ(w.plan(), before) << "one step";
  // Into the ceiling it does not go.
  for (int i = 0; i < 12; ++i) QTest::keyClick(map, Qt::Key_Up, Qt::ShiftModifier);
  EXPECT_LT(w.plan().light("A")->height, w.plan().room.height);
  EXPECT_GT(w.plan().light("A")->height, a.height);
}

TEST(ReadPage, TheWorstFaultIsShownAtOnce) {
  Reader w;
  Plan bad = w.plan();
  bad.light("B")->targetStops = 0.8;
  bad.light("B")->power = std::min(0.0, bad.light("B")->power + 2.3);
  w.window.document()->perform(SetPlan{bad}, "Too much fill");
  readCardOf(w.window)->showPage("Faults");
  ASSERT_TRUE(w.read());
  ASSERT_TRUE(eventually([&] { return !readCardOf(w.window)->chosenFault().isEmpty(); }));
  EXPECT_EQ(w.field<QListWidget>("faults")->currentRow(), 0);
}

TEST(ReadPage, AFaultIsShownCuredAndCanBeWanted) {
  Reader w;
  Plan bad = w.plan();
  bad.light("B")->targetStops = 0.8;
  bad.light("B")->power = std::min(0.0, bad.light("B")->power + 2.3);
  w.window.document()->perform(SetPlan{bad}, "Too much fill");
  ASSERT_TRUE(w.read());
  ASSERT_TRUE(readCardOf(w.window)->reading()->fault("fill-over-key"));
  w.window.showPage("Faults");
  auto* list = w.field<QListWidget>("faults");
  int row = -1;
  for (int i = 0; i < list->count(); ++i)
    if (list->item(i)->data(Qt::UserRole).toString() == "fill-over-key") row = i;
  ASSERT_GE(row, 0);
  list->setCurrentRow(row);
  EXPECT_TRUE(w.field<QLabel>("faultText")->text().contains("over the key"));
  auto* cures = w.field<Gallery>("cures");
  ASSERT_TRUE(eventually([&] { return cures->isVisible(); }));
  ASSERT_GE(cures->count(), 2) << "as it is, and a cure";
  EXPECT_EQ(cures->chosen(), "now");
  EXPECT_TRUE(cures->item(1)->text().contains("B")) << qPrintable(cures->item(1)->text());
  // Wanted so: not counted any more; and undone.
  auto* wanted = w.field<QCheckBox>("wanted");
  QTest::mouseClick(wanted, Qt::LeftButton, {}, QPoint(8, wanted->height() / 2));
  EXPECT_EQ(w.plan().wanted, std::vector<std::string>{"fill-over-key"});
  ASSERT_TRUE(w.read());
  EXPECT_TRUE(readCardOf(w.window)->reading()->fault("fill-over-key")->wanted);
  w.window.document()->undo();
  EXPECT_TRUE(w.plan().wanted.empty());
  ASSERT_TRUE(w.read());
  for (int i = 0; i < list->count(); ++i)
    if (list->item(i)->data(Qt::UserRole).toString() == "fill-over-key") list->setCurrentRow(i);
  ASSERT_TRUE(eventually([&] { return cures->isVisible(); }));
  // A cure of the plan before is not offered for the plan after.
  Plan other = w.plan();
  other.light("D")->height += 0.05;
  w.window.document()->perform(SetPlan{other}, "Something else");
  EXPECT_FALSE(cures->isVisible());
  const auto shownAsRead = [&] { return list->item(0)->foreground().color() != Theme::current().quiet; };
  EXPECT_FALSE(shownAsRead()) << "what is listed is of the plan before";
  ASSERT_TRUE(w.read());
  EXPECT_TRUE(shownAsRead());
  ASSERT_TRUE(eventually([&] { return cures->isVisible(); }));
  cures->setFocus();
  cures->setCurrent("0");
  QTest::keyClick(cures, Qt::Key_Return);
  EXPECT_EQ(w.plan().light("D")->height, other.light("D")->height);
  ASSERT_TRUE(w.read());
  EXPECT_FALSE(readCardOf(w.window)->reading()->fault("fill-over-key"));
}

TEST(ReadPage, ItsPagesAreKnownWhateverTheirTabsSay) {
  Reader w;
  ASSERT_TRUE(w.read());
  auto* tabs = readCardOf(w.window)->findChild<QTabWidget*>();
  ASSERT_TRUE(tabs);
  for (int i = 0; i < tabs->count(); ++i) tabs->setTabText(i, QString(i + 1, 'x'));  // as in another language
  w.window.showPage("Eyes");
  EXPECT_EQ(readCardOf(w.window)->page(), "Eyes");
  EXPECT_FALSE(w.window.bench().easel->evidence()->any());
  w.window.showPage("Pattern");
  EXPECT_EQ(readCardOf(w.window)->page(), "Pattern");
  EXPECT_TRUE(w.window.bench().easel->evidence()->any()) << "the evidence goes by the page, not by its word";
}

TEST(ReadPage, EnlargesTheEyes) {
  Reader w;
  w.window.showPage("Eyes");
  ASSERT_TRUE(w.read());
  auto* eyes = w.window.findChild<EyesView*>("eyes");
  ASSERT_TRUE(eyes);
  EXPECT_TRUE(eventually([&] { return eyes->hasPictures(); }));
  EXPECT_TRUE(w.field<QLabel>("eyesText")->text().contains("o'clock"));
}

TEST(ByEye, ToolsAreSwitchedAndAPictureStandsBeside) {
  Reader w;
  ASSERT_TRUE(w.settled());
  w.window.showPage("By eye");
  auto click = [&](const char* name) {
    auto* box = w.field<QCheckBox>(name);
    QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(8, box->height() / 2));
  };
  click("byEyeZebra");
  EXPECT_TRUE(w.window.bench().easel->tools().zebra);
  EXPECT_NEAR(w.window.bench().easel->tools().zebraLevel, 0.9, 1e-9);
  w.field<QSpinBox>("zebraLevel")->setValue(70);
  EXPECT_NEAR(w.window.bench().easel->tools().zebraLevel, 0.7, 1e-9);
  click("byEyeCard");
  EXPECT_TRUE(w.window.bench().easel->tools().greyCard);
  click("byEyeHistogram");
  EXPECT_TRUE(w.window.bench().easel->tools().histogram);
  // The keys do the same, and the boxes follow.
  w.window.bench().easel->setFocus();
  QTest::keyClick(w.window.bench().easel, Qt::Key_Z);
  EXPECT_FALSE(w.window.bench().easel->tools().zebra);
  EXPECT_FALSE(w.field<QCheckBox>("byEyeZebra")->isChecked());

  test::TemporaryFolder folder;
  const QString file = QString::fromStdString((folder.path / "own.png").string());
  QImage own(40, 50, QImage::Format_RGB32);
  own.fill(qRgb(118, 118, 118));
  own.save(file);
  const QRectF alone = w.window.bench().easel->pictureRect();
  w.window.beside()->show(file);
  EXPECT_TRUE(eventually([&] { return w.window.bench().easel->hasBeside(); }));
  EXPECT_LT(w.window.bench().easel->pictureRect().width(), 0.6 * alone.width());
  const QString broken = QString::fromStdString((folder.path / "broken.png").string());
  std::ofstream(broken.toStdString()) << "no picture";
  w.window.beside()->show(broken);
  EXPECT_TRUE(eventually([&] { return w.window.notice().contains("broken.png"); }));
  // A drawing is a program: it is refused, whatever this installation could do with it.
  const QString drawing = QString::fromStdString((folder.path / "drawing.svg").string());
  std::ofstream(drawing.toStdString()) << "<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'/>";
  w.window.beside()->show(drawing);
  EXPECT_TRUE(eventually([&] { return w.window.notice().contains("drawing.svg"); }));
  EXPECT_TRUE(w.window.bench().easel->hasBeside()) << "the one before stays";
  QTest::mouseClick(w.field<QPushButton>("besideAway"), Qt::LeftButton);
  EXPECT_FALSE(w.window.bench().easel->hasBeside());
}

TEST(TheShelf, IsFoundByTheWordsOfTheTrade) {
  test::DataHome home;
  Reader w;
  w.window.side()->openLooks();
  LooksDialog* shelf = w.window.side()->looks();
  auto* list = shelf->findChild<QListWidget*>("shelf");
  auto* search = shelf->findChild<QLineEdit*>("searchLooks");
  const auto shown = [&] {
    QStringList ids;
    for (int i = 0; i < list->count(); ++i)
      if (!list->item(i)->isHidden()) ids << list->item(i)->data(Qt::UserRole).toString();
    return ids;
  };
  EXPECT_TRUE(shelf->findChild<QLabel*>("aboutLook")->text().contains("window light")) << "the first is told at once";
  const qsizetype all = shown().size();
  EXPECT_EQ(all, list->count());
  QTest::keyClicks(search, "Clamshell");
  EXPECT_EQ(shown(), QStringList({"shell", "answer-by-board"})) << qPrintable(shown().join(' '));
  EXPECT_EQ(list->currentItem()->data(Qt::UserRole).toString(), "shell") << "what is told is one that was found";
  EXPECT_TRUE(shelf->findChild<QLabel*>("aboutLook")->text().contains("clamshell"));
  search->clear();
  QTest::keyClicks(search, "one low");
  EXPECT_EQ(shown(), QStringList({"half-dark"})) << "every word, in any order";
  search->clear();
  QTest::keyClicks(search, "toaster");
  EXPECT_TRUE(shown().isEmpty());
  EXPECT_TRUE(shelf->findChild<QLabel*>("noLook")->isVisibleTo(shelf));
  search->clear();
  EXPECT_EQ(shown().size(), all);
  EXPECT_FALSE(shelf->findChild<QLabel*>("noLook")->isVisibleTo(shelf));
}

TEST(TheShelf, ProposesASetThatCanBeTaken) {
  test::TemporaryFolder data;
  qputenv("XDG_DATA_HOME", data.path.c_str());
  Reader w;
  w.window.side()->openLooks();
  LooksDialog* shelf = w.window.side()->looks();
  ASSERT_TRUE(shelf);
  auto* list = shelf->findChild<QListWidget*>("shelf");
  EXPECT_GE(list->count(), 16);
  shelf->chooseLook("three-on-black");
  EXPECT_TRUE(shelf->findChild<QLabel*>("aboutLook")->text().contains("Rim"));
  auto* ratio = shelf->findChild<QLineEdit*>("wishRatio");
  ratio->setText("much");
  QTest::mouseClick(shelf->findChild<QPushButton*>("propose"), Qt::LeftButton);
  EXPECT_FALSE(shelf->proposing()) << "a ratio that is none is refused";
  EXPECT_TRUE(shelf->findChild<QLabel*>("proposeState")->text().contains("ratio"));
  ratio->setText("4:1");
  QTest::mouseClick(shelf->findChild<QPushButton*>("propose"), Qt::LeftButton);
  EXPECT_TRUE(shelf->proposing());
  ASSERT_TRUE(eventually([&] { return !shelf->proposing(); }));
  ASSERT_GE(shelf->proposals(), 1u);
  const Plan before = w.plan();
  QTest::mouseClick(shelf->findChild<QPushButton*>("showProposal0"), Qt::LeftButton);
  EXPECT_TRUE(w.window.bench().onEasel->tryingOut());
  QTest::mouseClick(shelf->findChild<QPushButton*>("takeProposal0"), Qt::LeftButton);
  EXPECT_NE(w.plan(), before);
  EXPECT_EQ(w.plan().backdrop.material, "paper-black");
  EXPECT_EQ(w.plan().lights.size(), 3u);
  // Stopped half-way nothing changes.
  QTest::mouseClick(shelf->findChild<QPushButton*>("propose"), Qt::LeftButton);
  QTest::mouseClick(shelf->findChild<QPushButton*>("stopPropose"), Qt::LeftButton);
  EXPECT_FALSE(shelf->proposing());
  EXPECT_EQ(shelf->proposals(), 0u);
  // The plan becomes a look of one's own.
  QTimer::singleShot(200, [] {
    for (QWidget* t : QApplication::topLevelWidgets())
      if (auto* d = qobject_cast<QInputDialog*>(t)) {
        d->setTextValue("Open day");
        d->accept();
      }
  });
  QTest::mouseClick(shelf->findChild<QPushButton*>("keepLook"), Qt::LeftButton);
  ASSERT_TRUE(eventually([&] { return list->currentItem()->data(Qt::UserRole).toString() == "own:0"; }));
  ASSERT_EQ(ownLooks().size(), 1u);
  EXPECT_EQ(ownLooks()[0].name, "Open day");
  w.window.document()->undo();
  QTest::mouseClick(shelf->findChild<QPushButton*>("useOwnLook"), Qt::LeftButton);
  EXPECT_TRUE(eventually([&] { return w.window.bench().onEasel->tryingOut(); }));
  QTest::mouseClick(shelf->findChild<QPushButton*>("forgetLook"), Qt::LeftButton);
  EXPECT_TRUE(eventually([&] { return ownLooks().empty() && !shelf->working(); }));
  qunsetenv("XDG_DATA_HOME");
}

}  // namespace
}  // namespace easel::app
