// Names are text: what comes from a file, a device or a picture is shown as it is, in every view.
#include "widgets/markup.h"

#include <gtest/gtest.h>

#include <QAbstractItemView>
#include <QHelpEvent>
#include <QListWidget>
#include <QMessageBox>
#include <QToolTip>

#include "gear/kit.h"
#include "plan/panels.h"
#include "widgets/fields.h"
#include "window_support.h"

namespace easel::app {
namespace {

constexpr const char* kMark = "<img src=\"/nowhere/mark.png\"><b>mark</b>";

// The demo with marks in everything that a stranger can name.
Plan marked() {
  Plan p = test::masterPlan();
  p.title = p.notes = kMark;
  for (Light& l : p.lights) l.name = kMark;
  p.panels = {proposePanel(p, "v-flat").panel, proposePanel(p, "shade").panel, proposePanel(p, "table").panel};
  for (size_t i = 0; i < p.panels.size(); ++i) {
    p.panels[i].id = std::to_string(i + 1);
    p.panels[i].name = kMark;
  }
  p.lights[1].worksOn = "3";
  PinnedSpot pin;
  pin.id = "pin-1";
  pin.name = kMark;
  pin.x = 0.4;
  pin.y = 1.5;
  p.spots = {pin};
  return p;
}

// Of every widget that is there: none shows the mark as anything but text.
void expectText(QWidget* of, const QString& where) {
  for (QLabel* label : of->findChildren<QLabel*>()) {
    EXPECT_NE(label->textFormat(), Qt::AutoText) << qPrintable(where) << qPrintable(label->objectName());
    if (label->textFormat() != Qt::PlainText) {
      EXPECT_FALSE(label->text().contains("<img", Qt::CaseInsensitive))
          << qPrintable(where) << qPrintable(label->text());
    }
  }
  for (QWidget* w : of->findChildren<QWidget*>()) {
    if (!w->isVisibleTo(of) || !w->toolTip().contains("<img")) continue;
    const QPoint at = w->rect().center();
    QHelpEvent help(QEvent::ToolTip, at, w->mapToGlobal(at));
    QCoreApplication::sendEvent(w, &help);
    EXPECT_FALSE(QToolTip::text().contains("<img")) << qPrintable(where) << w->metaObject()->className();
  }
  QToolTip::hideText();
}

TEST(Markup, NamesAreTextInEveryView) {
  Shown s(false);
  s.window.document()->startFrom(marked());
  ASSERT_TRUE(s.settled());
  onEveryPage(s.window, [&](const QString& where) { expectText(&s.window, where); });
  s.window.showNotice(kMark, true);
  expectText(&s.window, "notice");
  DayWindow day([] { return std::vector<DayWindow::OpenPlan>(); });
  day.setQuiet(true);
  day.document()->edit("mark", [](Day& d) {
    d.title = d.studio = d.notes = kMark;
    DaySitter sitter;
    sitter.name = sitter.notes = kMark;
    d.sitters = {sitter};
    DayLook look;
    look.id = "1";
    look.title = look.outfit = look.notes = kMark;
    look.plan = marked();
    look.sitters = {kMark};
    d.looks = {look};
    d.breaks = {{600, 620, kMark}};
  });
  day.show();
  ASSERT_TRUE(eventually([&] { return !day.working(); }));
  for (const char* page : {"Order", "People", "Clock", "Packing", "Load"}) {
    day.showPage(page);
    expectText(&day, page);
  }
  day.say(kMark, true);
  expectText(&day, "said");
}

TEST(Markup, TooltipsOfListsAreTextToo) {
  EXPECT_FALSE(plainTip(kMark).contains("<img"));
  EXPECT_EQ(plainTip("5 < 6 and 7 > 3"), "5 < 6 and 7 > 3") << "what is no markup stays as it is";
  QListWidget list;
  auto* item = new QListWidgetItem("one", &list);
  item->setToolTip(kMark);
  list.show();
  const QPoint at = list.visualItemRect(item).center();
  QHelpEvent help(QEvent::ToolTip, at, list.viewport()->mapToGlobal(at));
  InputGuard::install();
  QCoreApplication::sendEvent(list.viewport(), &help);
  EXPECT_FALSE(QToolTip::text().contains("<img"));
  EXPECT_TRUE(QToolTip::text().contains("&lt;img")) << qPrintable(QToolTip::text());
  QToolTip::hideText();
}

TEST(Markup, BoxesAskInText) {
  InputGuard::install();
  QMessageBox box(QMessageBox::Question, "Jolly Easel", QString("\"%1\" has changes").arg(kMark), QMessageBox::Ok);
  box.ensurePolished();
  for (QWidget* w : box.findChildren<QWidget*>()) w->ensurePolished();
  for (const QLabel* label : box.findChildren<QLabel*>()) EXPECT_NE(label->textFormat(), Qt::AutoText);
}

}  // namespace
}  // namespace easel::app
