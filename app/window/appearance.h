// How the program looks and spells: theme, size of the type, units. All windows of the process have the same. Interface
// thread.
#pragma once

namespace easel::app {

class MainWindow;

void setTheme(bool dim);
/// Type grows with the window in use, in steps, so that a large screen can be read from further away.
void fitType(const MainWindow& inUse);
/// After a change of the preferences: every window writes its figures in the new units.
void applySpelling();

}  // namespace easel::app
