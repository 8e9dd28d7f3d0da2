#include "widgets/single_keys.h"

#include <QAction>
#include <QApplication>
#include <QKeyEvent>
#include <QSettings>
#include <algorithm>
#include <utility>

namespace easel::app {

SingleKeys::SingleKeys(QWidget* window, QList<QWidget*> instruments)
    : QObject(window), window_(window), instruments_(std::move(instruments)) {
  qApp->installEventFilter(this);
}

bool SingleKeys::on() { return QSettings().value("keys/single", true).toBool(); }
void SingleKeys::setOn(bool on) { QSettings().setValue("keys/single", on); }

bool SingleKeys::onInstrument(const QWidget* focus) const {
  return !focus || focus == window_ || std::any_of(instruments_.begin(), instruments_.end(), [&](const QWidget* w) {
    return w == focus || w->isAncestorOf(focus);
  });
}

bool SingleKeys::eventFilter(QObject*, QEvent* e) {
  if (e->type() != QEvent::ShortcutOverride || !window_->isActiveWindow()) return false;
  const auto* key = static_cast<QKeyEvent*>(e);
  if (key->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier) || key->key() <= Qt::Key_Space ||
      key->key() >= Qt::Key_Escape)
    return false;
  const QWidget* focus = QApplication::focusWidget();
  if (on() && onInstrument(focus)) return false;
  // A shortcut of the focused widget itself still works.
  const QList<QAction*> own = focus ? focus->actions() : QList<QAction*>();
  if (std::any_of(own.begin(), own.end(), [&](const QAction* a) {
        return a->shortcutContext() == Qt::WidgetShortcut && a->shortcut() == QKeySequence(key->key());
      }))
    return false;
  e->accept();  // the key goes to the widget, not to a shortcut of the window
  return true;
}

}  // namespace easel::app
