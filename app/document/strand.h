// Work of one owner that waits for disks: in order, on a thread that is nobody else's while it runs.
//
// The owner never waits, not even when it goes: what was started is still done, and only its report is dropped. One
// owner's slow disk holds up no other owner. The program waits for all strands when it ends. Interface thread.
#pragma once

#include <QObject>
#include <functional>
#include <memory>

namespace easel::app {

class Strand {
 public:
  /// Called on the owner's thread when the work is through, unless the owner has gone.
  using Report = std::function<void()>;
  /// Must not throw.
  using Work = std::function<Report()>;

  explicit Strand(QObject* owner);
  ~Strand();
  Strand(const Strand&) = delete;
  Strand& operator=(const Strand&) = delete;

  void start(Work work);
  /// Whether something of this owner is still to be done or to be reported.
  bool busy() const { return busy_ > 0; }

  /// Waits for the work of all owners, those that have gone too.
  static void finishAll();

 private:
  struct Shared;
  static void run(const std::shared_ptr<Shared>& shared);
  std::shared_ptr<Shared> shared_;
  int busy_ = 0;
};

}  // namespace easel::app
