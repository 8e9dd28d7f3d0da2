#pragma once

#include <QApplication>
#include <QDialog>
#include <QMenuBar>
#include <QTabWidget>
#include <QTest>
#include <QTimer>

#include "day/day_window.h"
#include "eventually.h"
#include "read/read_card.h"
#include "support.h"
#include "window/main_window.h"
#include "window/plan_windows.h"

namespace easel::app {

template <class T>
T* field(MainWindow& w, const char* name) {
  T* f = w.findChild<T*>(name);
  EXPECT_TRUE(f) << name;
  return f;
}

inline ReadCard* readCardOf(MainWindow& w) { return w.findChild<ReadCard*>(); }

/// Saves and waits until it is through.
template <class D>
void saveNow(D* document, const std::filesystem::path& file) {
  document->saveTo(file, SessionFile::Over::Anyway);
  EXPECT_TRUE(eventually([&] { return !document->session()->saving(); }));
  EXPECT_EQ(document->path(), file);
}

/// The windows of this program but the one at hand.
inline std::vector<MainWindow*> others(const MainWindow* own) {
  std::vector<MainWindow*> out;
  for (QWidget* w : QApplication::topLevelWidgets())
    if (auto* m = qobject_cast<MainWindow*>(w); m && m != own && m->isVisible()) out.push_back(m);
  return out;
}
inline void closeAll(const MainWindow* own) {
  for (MainWindow* m : others(own)) {
    m->setQuiet(true);
    m->close();
  }
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
}

/// Every page of every stage, shown; `f(where)` with the names of both.
template <class F>
void onEveryPage(MainWindow& w, F f) {
  for (int stage = 0; stage < int(w.stages().size()); ++stage) {
    w.setStage(stage);
    auto* tabs = w.stages()[size_t(stage)]->page()->findChild<QTabWidget*>();
    for (int page = 0; page < tabs->count(); ++page) {
      tabs->setCurrentIndex(page);
      QCoreApplication::processEvents();
      f(QStringLiteral("%1, %2: ").arg(w.stages()[size_t(stage)]->id(), tabs->tabText(page)));
    }
  }
}

/// A window as the user sees it, with the demo plan open; the predicted picture an eighth as wide and high as the
/// user's unless the test looks closely at it, and no better than what is read of it needs.
struct Shown {
  MainWindow window;
  explicit Shown(bool demo = true, QSize picture = {80, 100}) {
    window.renderLink()->setEnough(4);
    window.setQuiet(true);
    window.bench().onEasel->setPictureSize(picture);
    window.setSharp(false);
    window.resize(1280, 800);
    window.show();
    if (demo) window.files()->openFile(QString::fromStdString(test::demoFile()));
    EXPECT_TRUE(settled());
  }
  const Light& key() { return window.document()->plan().lights.at(0); }
  /// Waits until readings and picture are those of the present plan.
  bool settled() {
    return eventually([&] {
      const auto& r = window.renderLink()->latest();
      return window.renderLink()->upToDate() && r && (r->answersCurrent || !r->problem.empty()) &&
             ((!r->picture.rgba.empty() && r->layers->current) || !r->problem.empty());
    });
  }
  /// Press at, move in steps, release: what a hand does.
  static void drag(QWidget* w, QPointF from, QPointF to, Qt::KeyboardModifiers modifiers = {}) {
    QTest::mousePress(w, Qt::LeftButton, modifiers, from.toPoint());
    for (int i = 1; i <= 8; ++i) {
      const QPointF at = from + (to - from) * i / 8.0;
      QMouseEvent move(QEvent::MouseMove, at, w->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, modifiers);
      QCoreApplication::sendEvent(w, &move);
    }
    QTest::mouseRelease(w, Qt::LeftButton, modifiers, to.toPoint());
  }
};

}  // namespace easel::app
