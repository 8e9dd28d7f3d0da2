// Panels and what is on a light, driven in the real window.
#include <gtest/gtest.h>

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QTest>
#include <QTreeWidget>
#include <QTreeWidgetItemIterator>
#include <fstream>

#include "formats/ies_file.h"
#include "formats/kit_json.h"
#include "window/main_window.h"
#include "window_support.h"

namespace easel::app {
namespace {

TEST(PanelsInTheWindow, PutUpMovedTurnedReadAndTakenAway) {
  Shown w;
  MainWindow& window = w.window;
  QTest::keyClick(&window, Qt::Key_W, Qt::ControlModifier | Qt::ShiftModifier);
  ASSERT_EQ(window.document()->plan().panels.size(), 1u);
  EXPECT_EQ(window.selectedPanel(), "1");
  EXPECT_TRUE(window.notice().contains("V-flat")) << qPrintable(window.notice());
  // Dragged on the dial like a light.
  DialView* dial = window.bench().dial;
  const Panel before = window.document()->plan().panels[0];
  const QPointF from = dial->handleOf(before);
  Shown::drag(dial, from, from + QPointF(0, 30));
  const Panel moved = window.document()->plan().panels[0];
  EXPECT_NE(moved.hour, before.hour);
  dial->setFocus();
  QTest::keyClick(dial, Qt::Key_Period);
  EXPECT_EQ(window.document()->plan().panels[0].turn, moved.turn + 3);
  // Height on the rail.
  window.bench().rail->setFocus();
  QTest::keyClick(window.bench().rail, Qt::Key_Up);
  EXPECT_NEAR(window.document()->plan().panels[0].above, moved.above + 0.05, 1e-9);
  // Its finish by the card; what it brings is said once it has been measured.
  auto* front = window.findChild<QComboBox*>("front");
  ASSERT_TRUE(front);
  front->setCurrentIndex(front->findData("silver"));
  emit front->activated(front->currentIndex());
  EXPECT_EQ(window.document()->plan().panels[0].front, "silver");
  auto* share = window.findChild<QLabel*>("panelShare");
  EXPECT_TRUE(eventually([&] { return share->text().contains("adds"); })) << qPrintable(share->text());
  // Away and back.
  QTest::keyClick(dial, Qt::Key_Delete);
  EXPECT_TRUE(window.document()->plan().panels.empty());
  EXPECT_TRUE(window.selectedPanel().isEmpty());
  window.document()->undo();
  ASSERT_EQ(window.document()->plan().panels.size(), 1u);
  EXPECT_EQ(window.document()->plan().panels[0].front, "silver");
}

TEST(PanelsInTheWindow, OnTheLightPageFitsTheModifier) {
  Shown w;
  MainWindow& window = w.window;
  auto* modifier = window.findChild<QComboBox*>("modifier");
  ASSERT_TRUE(modifier);
  auto choose = [&](QComboBox* box, const char* id) {
    box->setCurrentIndex(box->findData(id));
    ASSERT_GE(box->currentIndex(), 0) << id;
    emit box->activated(box->currentIndex());
  };
  // What does not fit is not there.
  auto stands = [&](const char* name) {
    auto* f = window.findChild<QWidget*>(name);
    return f->isVisibleTo(f->parentWidget());
  };
  choose(modifier, "spot");
  EXPECT_TRUE(stands("pattern"));
  EXPECT_TRUE(stands("doorleft"));
  EXPECT_FALSE(stands("zoom"));
  choose(window.findChild<QComboBox*>("pattern"), "panes");
  EXPECT_EQ(window.document()->plan().lights[0].fittings.pattern, "panes");
  window.findChild<QDoubleSpinBox*>("doorleft")->setValue(20);
  EXPECT_EQ(window.document()->plan().lights[0].fittings.doors.left, 20);
  choose(modifier, "softbox-60x90");
  EXPECT_FALSE(stands("pattern"));
  EXPECT_TRUE(stands("inner"));
  window.findChild<QCheckBox*>("inner")->click();
  EXPECT_FALSE(window.document()->plan().lights[0].fittings.inner);
  EXPECT_TRUE(window.findChild<QLabel*>("losses")->text().contains("inner diffuser"));
  window.document()->undo();
  EXPECT_TRUE(window.document()->plan().lights[0].fittings.inner);
  // Feathered to the edge and back by one key.
  QTest::keyClick(&window, Qt::Key_G);
  EXPECT_NE(window.document()->plan().lights[0].pan, 0);
  QTest::keyClick(&window, Qt::Key_G);
  EXPECT_EQ(window.document()->plan().lights[0].pan, 0);
}

TEST(KitInTheWindow, CountsAreKeptAndGapsAreSaid) {
  test::TemporaryFolder home;
  const QByteArray before = qgetenv("XDG_DATA_HOME");
  qputenv("XDG_DATA_HOME", home.path.c_str());
  {
    Shown w;
    QTest::keyClick(&w.window, Qt::Key_K, Qt::ControlModifier);
    KitDialog* kit = w.window.side()->kit();
    ASSERT_TRUE(kit);
    auto count = [&](const std::string& id) {
      auto* f = kit->findChild<QSpinBox*>(QString::fromStdString("count-" + id));
      EXPECT_TRUE(f) << id;
      return f;
    };
    count("mains-400")->setValue(1);
    count("mains-400")->setValue(0);
    EXPECT_TRUE(kit->kit().empty()) << "a count put back to nothing leaves no trace";
    EXPECT_FALSE(unitsOwned("mains-400").has_value());
    count("hotshoe-60")->setValue(1);
    const QString gaps = kit->findChild<QLabel*>("kitGaps")->text();
    EXPECT_TRUE(gaps.contains("needed, the kit has none")) << qPrintable(gaps);
    // A unit of one's own by the form.
    kit->findChild<QPushButton*>("ownUnit")->click();
    auto* form = kit->findChild<QDialog*>("unitForm");
    ASSERT_TRUE(form);
    form->findChild<QLineEdit*>("unitName")->setText("Bench flash");
    form->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    EXPECT_TRUE(findUnit("own-bench-flash"));
    auto* units = w.window.findChild<QComboBox*>("unit");
    EXPECT_GE(units->findData("own-bench-flash"), 0) << "it can be chosen for a light at once";
    // It is changed in place; a thing of the catalogue opens as a copy.
    auto choose = [&](const QString& id) {
      auto* tree = kit->findChild<QTreeWidget*>("kitTree");
      for (QTreeWidgetItemIterator at(tree); *at; ++at)
        if ((*at)->data(0, Qt::UserRole).toString() == id) return tree->setCurrentItem(*at);
      ADD_FAILURE() << qPrintable(id);
    };
    auto newest = [&](const char* name) { return kit->findChildren<QDialog*>(name).last(); };
    choose("own-bench-flash");
    kit->findChild<QPushButton*>("editOwn")->click();
    newest("unitForm")->findChild<QDoubleSpinBox*>("unitEnergy")->setValue(320);
    newest("unitForm")->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    EXPECT_EQ(findUnit("own-bench-flash")->wattSeconds, 320);
    EXPECT_EQ(kit->kit().ownUnits.size(), 1u);
    choose("softbox-60x90");
    kit->findChild<QPushButton*>("editOwn")->click();
    newest("modifierForm")->findChild<QLineEdit*>("modifierName")->setText("Old box");
    newest("modifierForm")->findChild<QDoubleSpinBox*>("modifierPasses")->setValue(30);
    newest("modifierForm")->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok)->click();
    ASSERT_TRUE(findModifier("own-old-box"));
    EXPECT_NEAR(findModifier("own-old-box")->transmission, 0.3, 1e-9);
    EXPECT_EQ(findModifier("own-old-box")->lobe, findModifier("softbox-60x90")->lobe) << "untouched figures stay";
    // A measured profile.
    const auto file = home.path / "bowl.ies";
    std::ofstream(file) << writeIesText(*findModifier("reflector-18"), 10000, 100);
    kit->addIes(QString::fromStdString(file.string()));
    EXPECT_TRUE(eventually([] { return findModifier("own-bowl") != nullptr; }));
    std::ofstream(home.path / "bad.ies") << "TILT=NONE\n1 1000 one\n";
    QString refused;
    QObject::connect(kit, &KitDialog::said, kit, [&](const QString& w, bool problem) { refused = problem ? w : ""; });
    kit->addIes(QString::fromStdString((home.path / "bad.ies").string()));
    EXPECT_TRUE(eventually([&] { return refused.contains("is not a number"); })) << qPrintable(refused);
    // ... of a front that is known, and back again.
    choose("dish-55");
    kit->takeMeasured(QString::fromStdString(file.string()));
    ASSERT_TRUE(eventually([] { return findModifier("dish-55")->profile != nullptr; }));
    EXPECT_EQ(findModifier("dish-55")->outline, Outline::Ring);
    choose("dish-55");
    kit->findChild<QPushButton*>("removeOwn")->click();
    EXPECT_FALSE(findModifier("dish-55")->profile);
    // Every head and front that has one shows its guide number.
    int guides = 0;
    for (QTreeWidgetItemIterator at(kit->findChild<QTreeWidget*>("kitTree")); *at; ++at)
      guides += (*at)->text(2).toInt() > 0;
    EXPECT_GT(guides, 30);
  }
  ASSERT_TRUE(eventually([] { return !KitFile::current().working(); }));
  EXPECT_TRUE(KitFile::current().load().isEmpty());
  const Inventory again = KitFile::current().kit();
  EXPECT_EQ(again.units.at("hotshoe-60"), 1);
  EXPECT_EQ(again.ownModifiers.size(), 2u);
  std::ofstream(kitFile()) << "{ broken";
  EXPECT_FALSE(KitFile::current().load().isEmpty()) << "said, and the program starts all the same";
  takeIntoUse({});
  if (before.isNull())
    qunsetenv("XDG_DATA_HOME");
  else
    qputenv("XDG_DATA_HOME", before);
}

TEST(PanelsInTheWindow, QualityIsSaidInWords) {
  Shown w;
  auto* words = w.window.findChild<QLabel*>("qualityWords");
  ASSERT_TRUE(words);
  EXPECT_TRUE(eventually([&] { return words->text().contains("backdrop"); })) << qPrintable(words->text());
}

}  // namespace
}  // namespace easel::app
