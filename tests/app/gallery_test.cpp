// Choices as pictures: the list by itself, and beside the fields of Set.
#include <gtest/gtest.h>

#include <QSignalSpy>

#include "cards/set_card.h"
#include "gallery/gallery_popover.h"
#include "plan/framing.h"
#include "window_support.h"

namespace easel::app {
namespace {

struct Alone {
  Gallery gallery;
  QSignalSpy rested{&gallery, &Gallery::rested}, left{&gallery, &Gallery::left}, taken{&gallery, &Gallery::taken};
  Alone() {
    gallery.setItems({{"a", "Short", ""}, {"b", "Side parting", ""}, {"c", "Bob", "to the chin"}});
    gallery.setChosen("b");
    gallery.resize(400, 200);
    gallery.show();
    gallery.setFocus();
    gallery.setCurrent("a");
  }
};

TEST(Gallery, KeysMoveFindAndTake) {
  Alone g;
  QTest::keyClick(&g.gallery, Qt::Key_Right);
  EXPECT_EQ(g.gallery.current(), "b");
  QTest::keyClick(&g.gallery, Qt::Key_B);
  EXPECT_EQ(g.gallery.current(), "c") << "a letter finds a name";
  QTest::keyClick(&g.gallery, Qt::Key_Return);
  ASSERT_EQ(g.taken.size(), 1);
  EXPECT_EQ(g.taken[0][0].toString(), "c");
  EXPECT_EQ(g.gallery.chosen(), "b") << "what holds is told by whoever owns the choice";
}

TEST(Gallery, WhatIsRestedOnIsTriedUntilItIsLeft) {
  Alone g;
  QTest::keyClick(&g.gallery, Qt::Key_Right);
  ASSERT_TRUE(eventually([&] { return g.rested.size() == 1; }));
  EXPECT_EQ(g.rested[0][0].toString(), "b");
  QTest::keyClick(&g.gallery, Qt::Key_Escape);
  EXPECT_EQ(g.left.size(), 1);
  QTest::keyClick(&g.gallery, Qt::Key_Escape);
  EXPECT_EQ(g.left.size(), 1) << "there is nothing more to leave";
  QTest::keyClick(&g.gallery, Qt::Key_Right);
  QTest::keyClick(&g.gallery, Qt::Key_Return);
  EXPECT_EQ(g.taken.size(), 1);
  EXPECT_EQ(g.left.size(), 1) << "taken is not left";
}

TEST(Gallery, SaysToAScreenReaderWhichHolds) {
  Alone g;
  EXPECT_EQ(g.gallery.item(1)->data(Qt::AccessibleTextRole).toString(), "Side parting, chosen");
  EXPECT_EQ(g.gallery.item(0)->data(Qt::AccessibleTextRole).toString(), "Short");
}

TEST(Gallery, PrintsAreAsLargeAsAllOfThemFit) {
  Alone g;
  const int few = g.gallery.printPixels().height();
  std::vector<Gallery::Item> many;
  for (int i = 0; i < 30; ++i) many.push_back({QString::number(i), QString::number(i), {}});
  g.gallery.setItems(many);
  EXPECT_LT(g.gallery.printPixels().height(), few);
  EXPECT_GE(g.gallery.printPixels().height(), 60) << "smaller than that nothing can be judged";
}

struct OnSet : Shown {
  SetCard* card;
  ChoiceGallery* pictures;
  OnSet() {
    window.setStage(0);
    card = window.findChild<SetCard*>();
    pictures = beside("Sitter");
  }
  ChoiceGallery* beside(const char* page) {
    for (ChoiceGallery* g : card->findChildren<ChoiceGallery*>())
      if (g->parentWidget()->property("page") == page) return g;
    return nullptr;
  }
  PicturedBox* box(const char* name) { return card->findChild<PicturedBox*>(name); }
  const SitterPlace& sitter() { return window.document()->plan().sitter; }
};

TEST(ChoiceGallery, ShowsTheChoicesOfTheBoxInUseAndTakesOne) {
  OnSet s;
  EXPECT_EQ(s.pictures->box(), s.box("sitter"));
  EXPECT_EQ(s.pictures->gallery()->count(), s.box("sitter")->count());
  s.box("hat")->setFocus();
  ASSERT_EQ(s.pictures->box(), s.box("hat"));
  EXPECT_EQ(s.pictures->gallery()->chosen(), "none");
  ASSERT_TRUE(eventually([&] { return s.pictures->gallery()->hasPicture("felt"); }));
  const Plan before = s.window.document()->plan();
  // Space opens the pictures, not a list.
  s.box("hat")->showPopup();
  EXPECT_TRUE(s.pictures->gallery()->hasFocus());
  QTest::keyClick(s.pictures->gallery(), Qt::Key_Right);
  ASSERT_TRUE(eventually([&] { return s.window.bench().onEasel->tryingOut(); }));
  EXPECT_EQ(s.window.document()->plan(), before) << "tried, not taken";
  QTest::keyClick(s.pictures->gallery(), Qt::Key_Escape);
  EXPECT_FALSE(s.window.bench().onEasel->tryingOut());
  QTest::keyClick(s.pictures->gallery(), Qt::Key_Return);
  EXPECT_NE(s.sitter().hat, "none");
  EXPECT_EQ(s.pictures->gallery()->chosen().toStdString(), s.sitter().hat);
  EXPECT_TRUE(s.card->findChild<QWidget*>("hatBack")->isVisible()) << "now there is one to tip back";
  s.window.document()->undo();
  EXPECT_EQ(s.window.document()->plan(), before) << "one step";
  EXPECT_FALSE(s.card->findChild<QWidget*>("hatBack")->isVisible());
}

TEST(ChoiceGallery, FramingsTellTheirDistance) {
  OnSet s;
  s.card->showPage("Camera");
  auto* framings = s.box("framing");
  framings->setFocus();
  ChoiceGallery* pictures = s.beside("Camera");
  ASSERT_TRUE(pictures);
  const Plan& plan = s.window.document()->plan();
  for (int i = 0; i < pictures->gallery()->count(); ++i) {
    const QListWidgetItem* item = pictures->gallery()->item(i);
    EXPECT_TRUE(item->toolTip().contains(" m")) << qPrintable(item->toolTip());
  }
  EXPECT_EQ(pictures->gallery()->chosen().toStdString(), framingOf(plan).id);
}

TEST(ChoiceGallery, ModifiersOpenOverTheWindow) {
  Shown s;
  s.window.setStage(1);
  auto* popover = s.window.findChild<GalleryPopover*>();
  auto* box = s.window.findChild<PicturedBox*>("modifier");
  ASSERT_TRUE(popover && box);
  const std::string before = s.key().modifier;
  box->showPopup();
  ASSERT_TRUE(popover->isVisible());
  Gallery* gallery = popover->pictures()->gallery();
  EXPECT_EQ(gallery->chosen().toStdString(), before);
  QTest::keyClick(gallery, Qt::Key_Escape);
  EXPECT_FALSE(popover->isVisible());
  EXPECT_EQ(s.key().modifier, before);
  box->showPopup();
  gallery->setCurrent("octa-120");
  QTest::keyClick(gallery, Qt::Key_Return);
  EXPECT_FALSE(popover->isVisible());
  EXPECT_EQ(s.key().modifier, "octa-120");
  s.window.document()->undo();
  EXPECT_EQ(s.key().modifier, before);
}

}  // namespace
}  // namespace easel::app
