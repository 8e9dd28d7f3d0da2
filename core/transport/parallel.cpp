#include "transport/parallel.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace easel {

void inParallel(size_t count, const std::function<void(size_t)>& work) { tbb::parallel_for(size_t(0), count, work); }

void inParallel(size_t count, size_t grain, const std::function<void(size_t, size_t)>& work) {
  tbb::parallel_for(tbb::blocked_range<size_t>(0, count, grain),
                    [&](const auto& range) { work(range.begin(), range.end()); });
}

}  // namespace easel
