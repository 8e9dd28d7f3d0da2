// The windows of the process: a plan in each, and one for the shooting day. Interface thread.
#pragma once

#include <vector>

namespace easel::app {

class DayWindow;
class MainWindow;

std::vector<MainWindow*> planWindows();
/// On the heap; it goes when it is closed.
MainWindow* newPlanWindow();
/// nullptr while none is open.
DayWindow* dayWindow();
/// The one that is open, or a new one with what an earlier session left; in front. `quiet`: a new one asks nothing when
/// it is closed.
DayWindow* openDayWindow(bool quiet);

}  // namespace easel::app
