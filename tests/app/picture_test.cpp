// The picture at the pixels of the screen, looked at closer, in other frames, on another screen; and from two metres.
#include <gtest/gtest.h>

#include <QAbstractButton>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QTabWidget>
#include <QTreeWidget>
#include <QWheelEvent>

#include "dialogs/kit_dialog.h"
#include "dialogs/looks_dialog.h"
#include "dialogs/series_dialog.h"
#include "plan/framing.h"
#include "widgets/mnemonics.h"
#include "widgets/theme.h"
#include "window_support.h"

namespace easel::app {
namespace {

TEST(ThePicture, IsTracedAtThePixelsThatAreShown) {
  Shown s;
  s.window.setSharp(true);
  s.window.setStage(2);
  s.window.side()->wishSharp();
  EaselView* easel = s.window.bench().easel;
  const SharpWish wish = easel->wish();
  const QRectF shown = easel->pictureRect();
  EXPECT_EQ(wish.width, int(std::lround(shown.width())));
  EXPECT_EQ(wish.height, int(std::lround(shown.height())));
  EXPECT_GT(wish.width, easel->picture().width());
  ASSERT_TRUE(eventually([&] { return easel->sharpDone(); }));
  EXPECT_EQ(easel->sharpPicture().size(), QSize(wish.width, wish.height));
  // An edit begins anew: the pieces of the plan before are gone with it.
  Light l = s.key();
  l.on = false;
  s.window.document()->perform(SetLight{l}, "off");
  ASSERT_TRUE(s.settled());
  EXPECT_EQ(easel->sharpPicture().size(), easel->picture().size());
}

TEST(ThePicture, IsLookedAtCloserWhereThePointerIs) {
  Shown s;
  s.window.setSharp(true);
  EaselView* easel = s.window.bench().easel;
  const QRectF whole = easel->pictureRect();
  const QPointF pointer = whole.center() + QPointF(40, -60);
  const auto share = [&] {
    const QRectF r = easel->pictureRect();
    return QPointF((pointer.x() - r.left()) / r.width(), (pointer.y() - r.top()) / r.height());
  };
  const QPointF before = share();
  QWheelEvent wheel(pointer, easel->mapToGlobal(pointer), {}, {0, 240}, Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase,
                    false);
  QCoreApplication::sendEvent(easel, &wheel);
  EXPECT_NEAR(easel->closer(), 1.25 * 1.25, 1e-6);
  EXPECT_NEAR(share().x(), before.x(), 0.01);
  EXPECT_NEAR(share().y(), before.y(), 0.01);
  // Only what is seen is asked for.
  EXPECT_LT(easel->wish().across, easel->wish().width);
  const QRectF at = easel->pictureRect();
  Shown::drag(easel, pointer, pointer + QPointF(30, 20));
  EXPECT_NEAR(easel->pictureRect().left(), at.left() + 30, 2);
  QTest::keyClick(easel, Qt::Key_0);
  EXPECT_EQ(easel->pictureRect(), whole);
  // Never beyond two screen pixels to a traced one.
  for (int i = 0; i < 60; ++i) QTest::keyClick(easel, Qt::Key_Plus);
  EXPECT_LE(easel->pictureRect().height(), 2 * kSharpest + 2);
  EXPECT_LE(easel->wish().height, kSharpest);
}

TEST(ThePicture, OneKeyGoesToTheEyes) {
  Shown s;
  EaselView* easel = s.window.bench().easel;
  QTest::keyClick(&s.window, Qt::Key_E);
  EXPECT_GT(easel->closer(), 2);
  const auto& layers = *s.window.renderLink()->latest()->layers;
  const auto eye = pixelOf(layers, layers.scene->studioPoint(layers.scene->sitter().landmarks.eyeLeft));
  ASSERT_TRUE(eye);
  const QRectF r = easel->pictureRect();
  const QPointF at(r.left() + double(eye->x) / layers.width * r.width(),
                   r.top() + double(eye->y) / layers.height * r.height());
  EXPECT_TRUE(easel->rect().contains(at.toPoint()));
  QTest::keyClick(&s.window, Qt::Key_E);
  EXPECT_DOUBLE_EQ(easel->closer(), 1);
}

TEST(ThePicture, StandsInTheFrameOfThePlan) {
  Shown s(true, {160, 200});
  auto* frame = field<QComboBox>(s.window, "frame");
  for (const PictureFrame& f : frames()) {
    frame->setCurrentIndex(frame->findData(QString::fromStdString(f.id)));
    emit frame->activated(frame->currentIndex());
    ASSERT_TRUE(s.settled());
    const QImage picture = s.window.bench().easel->picture();
    EXPECT_NEAR(double(picture.width()) / picture.height(), f.widthOverHeight, 0.02) << f.id;
    EXPECT_NEAR(picture.width() * picture.height(), 160 * 200, 600) << f.id;
  }
  QTest::keyClick(&s.window, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_NEAR(s.window.document()->plan().camera.frame, 1.5, 1e-9);
}

TEST(ThePicture, StandsAloneInAWindowOfItsOwn) {
  Shown s;
  QTest::keyClick(&s.window, Qt::Key_F11, Qt::ShiftModifier);
  ASSERT_TRUE(s.window.side()->picture());
  PictureWindow* alone = s.window.side()->picture();
  EXPECT_TRUE(alone->isVisible());
  EXPECT_EQ(alone->easel()->picture(), s.window.bench().easel->picture());
  Light l = s.key();
  l.on = false;
  s.window.document()->perform(SetLight{l}, "off");
  ASSERT_TRUE(s.settled());
  EXPECT_EQ(alone->easel()->picture(), s.window.bench().easel->picture());
  QTest::keyClick(alone, Qt::Key_Escape);
  EXPECT_TRUE(eventually([&] { return !s.window.side()->picture(); }));
}

TEST(Far, AnswerLadderAndFiguresStandThreeTimesAsLarge) {
  Shown s;
  s.window.setStage(1);
  const double near = s.window.bench().ladder->zoom();
  const int answer = s.window.findChild<Headline*>()->height();
  QTest::keyClick(&s.window, Qt::Key_F10);
  EXPECT_TRUE(s.window.far());
  EXPECT_DOUBLE_EQ(s.window.bench().ladder->zoom(), 3 * near);
  EXPECT_GT(s.window.findChild<Headline*>()->height(), answer);
  EXPECT_FALSE(s.window.bench().easel->isVisible());
  EXPECT_FALSE(s.window.bench().dial->isVisible());
  EXPECT_TRUE(s.window.bench().ladder->isVisible());
  EXPECT_EQ(QApplication::focusWidget(), s.window.bench().ladder);
  // The ladder works as it does near: the target follows the key.
  const double before = s.key().power;
  QTest::keyClick(s.window.bench().ladder, Qt::Key_Plus);
  EXPECT_NE(s.key().power, before);
  QTest::keyClick(&s.window, Qt::Key_Escape);
  EXPECT_FALSE(s.window.far());
  EXPECT_TRUE(s.window.bench().easel->isVisible());
  EXPECT_DOUBLE_EQ(s.window.bench().ladder->zoom(), near);
}

QStringList clashesIn(const QStringList& texts, QSet<QChar> taken = {}) {
  QStringList out;
  for (const QString& t : texts)
    if (const QChar c = mnemonicOf(t); !c.isNull()) {
      if (taken.contains(c)) out << t;
      taken.insert(c);
    }
  return out;
}

// What can be seen together, apart from menus.
QStringList seenIn(QWidget& w) {
  QStringList out;
  for (QWidget* c : w.findChildren<QWidget*>()) {
    auto* label = qobject_cast<QLabel*>(c);
    if (c->isVisibleTo(&w) && ((label && label->buddy()) || qobject_cast<QAbstractButton*>(c)))
      out << c->property("text").toString();
  }
  return out;
}

TEST(Mnemonics, AreFreeOfClashesInEveryStageMenuAndDialog) {
  Shown s;
  QSet<QChar> menus;
  QStringList titles;
  for (const QAction* a : s.window.menuBar()->actions()) {
    titles << a->text();
    menus.insert(mnemonicOf(a->text()));
    QStringList entries;
    for (const QAction* e : a->menu()->actions())
      if (e->isVisible()) entries << e->text();
    EXPECT_TRUE(clashesIn(entries).isEmpty()) << qPrintable(a->text() + ": " + clashesIn(entries).join(", "));
  }
  EXPECT_TRUE(clashesIn(titles).isEmpty()) << qPrintable(clashesIn(titles).join(", "));
  onEveryPage(s.window, [&](const QString& where) {
    const auto clashes = clashesIn(seenIn(s.window), menus);
    EXPECT_TRUE(clashes.isEmpty()) << qPrintable(where + clashes.join(", "));
  });
  LooksDialog looks(s.window.document());
  KitDialog kit(s.window.document());
  SeriesDialog series(s.window.document());
  for (QDialog* d : {static_cast<QDialog*>(&looks), static_cast<QDialog*>(&kit), static_cast<QDialog*>(&series)}) {
    d->show();
    EXPECT_TRUE(clashesIn(seenIn(*d)).isEmpty()) << qPrintable(clashesIn(seenIn(*d)).join(", "));
  }
}

TEST(Chin, IsSaidUpOrDown) {
  Shown s;
  auto* chin = field<NumberField>(s.window, "chin");
  const auto nod = [&] { return s.window.document()->plan().sitter.nod; };
  for (const auto& [text, down] :
       {std::pair{"5 up", -5.0}, {"5 down", 5.0}, {"7,5\u00b0 UP", -7.5}, {"4", 4.0}, {"level", 0.0}}) {
    EXPECT_DOUBLE_EQ(chin->valueFromText(text), down) << text;
    EXPECT_DOUBLE_EQ(chin->valueFromText(chin->textFromValue(std::round(down))), std::round(down)) << text;
  }
  chin->setValue(6);
  EXPECT_DOUBLE_EQ(nod(), 6);
}

TEST(Mnemonics, GoToWhoAsksAndElseToTheNextFreeLetter) {
  QSet<QChar> taken{'S'};
  EXPECT_EQ(withMnemonic("&Save", taken), "S&ave");
  EXPECT_EQ(withMnemonic("Salt && pepper", taken), "Salt && &pepper");
  EXPECT_EQ(mnemonicOf("Salt && &pepper"), QChar('P'));
  EXPECT_EQ(withMnemonic("&Ask", taken), "As&k");
  EXPECT_EQ(withMnemonic("ask", taken), "ask") << "every letter is taken";
}

TEST(Shelf, PrintsAreKeptBetweenOpenings) {
  Shown s;
  {
    LooksDialog shelf(s.window.document());
    shelf.show();
    ASSERT_TRUE(eventually([&] { return !shelf.printing(); }));
  }
  LooksDialog again(s.window.document());
  again.show();
  EXPECT_FALSE(again.printing()) << "everything is there";
}

TEST(Kit, IsSearchedAndShowsWhatIsOwnedFirst) {
  Shown s;
  KitDialog kit(s.window.document());
  auto* tree = kit.findChild<QTreeWidget*>("kitTree");
  auto* search = kit.findChild<QLineEdit*>("kitSearch");
  const auto seen = [&] {
    QStringList names;
    for (int i = 0; i < tree->topLevelItemCount(); ++i)
      for (int k = 0; k < tree->topLevelItem(i)->childCount(); ++k)
        if (!tree->topLevelItem(i)->isHidden() && !tree->topLevelItem(i)->child(k)->isHidden())
          names << tree->topLevelItem(i)->child(k)->text(0);
    return names;
  };
  const auto all = seen().size();
  search->setText("octagon 90");
  EXPECT_GE(seen().size(), 1);
  EXPECT_LT(seen().size(), all / 4);
  for (const QString& name : seen()) EXPECT_TRUE(name.contains("octagon", Qt::CaseInsensitive)) << qPrintable(name);
  search->clear();
  EXPECT_EQ(seen().size(), all);
  Inventory owned;
  const std::string last = knownModifiers().back().id;
  owned.modifiers = {{last, 2}};
  kit.setKit(owned);
  QTreeWidgetItem* modifiers = tree->topLevelItem(1);
  EXPECT_EQ(modifiers->child(0)->data(0, Qt::UserRole).toString().toStdString(), last);
  EXPECT_FALSE(modifiers->child(0)->icon(0).isNull()) << "its profile";
}

}  // namespace
}  // namespace easel::app
