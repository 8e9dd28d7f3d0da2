// Windows open no larger than the screen that they open on.
#pragma once

#include <QGuiApplication>
#include <QScreen>
#include <QWidget>

namespace easel::app {

/// What of `wanted` a window may have on a screen whose free part is `room`, with its frame and title round it.
inline QSize withinRoom(QSize wanted, QSize room) {
  constexpr QSize kFrame{16, 48};  // common practice, no source: a frame is known only once it stands
  return wanted.boundedTo((room - kFrame).expandedTo({320, 240}));
}

inline void resizeWithin(QWidget* window, QSize wanted) {
  // Pictures of windows are made without a screen.
  if (const QScreen* screen = window->screen(); screen && QGuiApplication::platformName() != QLatin1String("offscreen"))
    wanted = withinRoom(wanted, screen->availableGeometry().size());
  window->resize(wanted);
}

}  // namespace easel::app
