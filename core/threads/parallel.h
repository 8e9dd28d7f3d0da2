// Loops over rows, tiles, lights and spots on all threads of the machine.
//
// The scheduler's headers cost three seconds in every file that includes them, so one file does. What the work throws
// comes out of the call, the rest is dropped then. Several threads may be in here at once, and work may call it again.
#pragma once

#include <cstddef>
#include <functional>

namespace easel {

/// work(0) ... work(count - 1), in any order, and waits. Each should be worth some microseconds.
void inParallel(size_t count, const std::function<void(size_t)>& work);
/// The same in ranges of about `grain`, for what is smaller: work(from, to).
void inParallel(size_t count, size_t grain, const std::function<void(size_t, size_t)>& work);

}  // namespace easel
