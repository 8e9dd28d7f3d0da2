#include "widgets/mnemonics.h"

#include <QAbstractButton>
#include <QLabel>
#include <QMenu>
#include <QMenuBar>
#include <QTabBar>
#include <QTabWidget>

namespace easel::app {
namespace {

bool asks(const QString& text) { return !mnemonicOf(text).isNull(); }

// What can carry a letter: those that ask for one first, so that nobody takes it from them.
void give(const QList<QWidget*>& all, QSet<QChar>& taken) {
  for (const bool asking : {true, false})
    for (QWidget* w : all) {
      const QString text = w->property("text").toString();
      if (text.isEmpty() || asks(text) != asking) continue;
      if (!asking && !qobject_cast<QLabel*>(w)) continue;  // a button without one is reached by Tab
      w->setProperty("text", withMnemonic(text, taken));
    }
}

void collect(QWidget* root, QList<QWidget*>& own, QList<QTabWidget*>& tabs) {
  for (QObject* o : root->children()) {
    auto* w = qobject_cast<QWidget*>(o);
    if (!w || w->isWindow()) continue;
    if (auto* t = qobject_cast<QTabWidget*>(w)) {
      tabs << t;
      continue;
    }
    auto* label = qobject_cast<QLabel*>(w);
    if ((label && label->buddy()) || qobject_cast<QAbstractButton*>(w)) own << w;
    collect(w, own, tabs);
  }
}

}  // namespace

QChar mnemonicOf(const QString& text) {
  for (int i = 0; i + 1 < text.size(); ++i) {
    if (text[i] != '&') continue;
    if (text[i + 1] != '&') return text[i + 1].toUpper();
    ++i;
  }
  return {};
}

QString withMnemonic(const QString& text, QSet<QChar>& taken) {
  const QChar asked = mnemonicOf(text);
  QString plain = text;
  if (!asked.isNull()) {
    if (!taken.contains(asked)) {
      taken.insert(asked);
      return text;
    }
    for (int i = 0; i + 1 < plain.size(); ++i)
      if (plain[i] == '&') {
        if (plain[i + 1] != '&') {
          plain.remove(i, 1);
          break;
        }
        ++i;
      }
  }
  // First letters of words, then any letter.
  for (const bool first : {true, false})
    for (int i = 0; i < plain.size(); ++i) {
      const QChar c = plain[i].toUpper();
      if (!c.isLetter() || taken.contains(c) || (first && i > 0 && plain[i - 1].isLetter())) continue;
      taken.insert(c);
      return plain.left(i) + '&' + plain.mid(i);
    }
  return plain;
}

void spreadMnemonics(QMenuBar* bar) {
  const auto spread = [](const QList<QAction*>& actions) {
    QSet<QChar> taken;
    for (const bool asking : {true, false})
      for (QAction* a : actions)
        if (!a->isSeparator() && a->isVisible() && asks(a->text()) == asking)
          a->setText(withMnemonic(a->text(), taken));
  };
  spread(bar->actions());
  for (QAction* title : bar->actions())
    if (title->menu()) spread(title->menu()->actions());
}

void spreadMnemonics(QWidget* root, QSet<QChar> taken) {
  QList<QWidget*> own;
  QList<QTabWidget*> tabs;
  collect(root, own, tabs);
  give(own, taken);
  for (QTabWidget* t : tabs)
    for (int i = 0; i < t->count(); ++i) spreadMnemonics(t->widget(i), taken);
}

QString keysAsHtml(const QMenuBar* bar) {
  QString html = QStringLiteral("<table cellspacing='4'>");
  for (QAction* menu : bar->actions())
    for (QAction* a : menu->menu()->actions())
      if (!a->shortcut().isEmpty())
        html += "<tr><td><b>" + a->shortcut().toString(QKeySequence::NativeText).toHtmlEscaped() +
                "</b>&nbsp;&nbsp;</td><td>" + a->text().remove('&').toHtmlEscaped() + "</td></tr>";
  return html + "</table>";
}

}  // namespace easel::app
