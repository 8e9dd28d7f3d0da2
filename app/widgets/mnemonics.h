// Letters that the Alt key reaches: each once within what can be seen together, in every language.
//
// A text may ask for one ("&Save"); it gets it when it is free, else the next letter of its words that is. Interface
// thread.
#pragma once

#include <QChar>
#include <QSet>
#include <QString>

class QMenu;
class QMenuBar;
class QWidget;

namespace easel::app {

/// `text` with its letter, which joins `taken`; without one when all its letters are taken.
QString withMnemonic(const QString& text, QSet<QChar>& taken);
/// The letter that a text asks for; null: none.
QChar mnemonicOf(const QString& text);

/// The titles of a menu bar, and the entries of each of its menus among themselves.
void spreadMnemonics(QMenuBar* bar);
/// Labels with a field, buttons and boxes inside `root`, apart from the letters in `taken`. Pages of a tab widget are
/// seen one at a time: each is spread by itself.
void spreadMnemonics(QWidget* root, QSet<QChar> taken = {});

/// The keys of all entries of a menu bar, as a table for a help page.
QString keysAsHtml(const QMenuBar* bar);

}  // namespace easel::app
