#include "threads/parallel.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

namespace easel {

// Isolated: a thread that waits for its loop takes up work of that loop alone. Otherwise it might begin another round
// of the loop outside, and ask again for what it is just making (Scene::interreflection).
void inParallel(size_t count, const std::function<void(size_t)>& work) {
  tbb::this_task_arena::isolate([&] { tbb::parallel_for(size_t(0), count, work); });
}

void inParallel(size_t count, size_t grain, const std::function<void(size_t, size_t)>& work) {
  tbb::this_task_arena::isolate([&] {
    tbb::parallel_for(tbb::blocked_range<size_t>(0, count, grain),
                      [&](const auto& range) { work(range.begin(), range.end()); });
  });
}

}  // namespace easel
