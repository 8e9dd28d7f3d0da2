// Runs the blocking file work of one owner in order, on another thread.
//
// The owner is never blocked, not even by its destruction: queued work still runs and only its report is dropped. A
// slow disk of one owner does not delay the others. The program waits for all strands before it exits. Interface
// thread.
#pragma once

#include <QObject>
#include <QString>
#include <functional>
#include <memory>

namespace easel::app {

class Strand {
 public:
  /// Called on the owner's thread after the work, unless the owner has been destroyed.
  using Report = std::function<void()>;
  /// Must not throw.
  using Work = std::function<Report()>;

  explicit Strand(QObject* owner);
  ~Strand();
  Strand(const Strand&) = delete;
  Strand& operator=(const Strand&) = delete;

  void start(Work work);
  /// For work that may throw std::exception: `failed` gets what() on the owner's thread.
  using Failed = std::function<void(const QString& why)>;
  void attempt(Work work, Failed failed);
  /// Whether work of this owner is queued, running or not yet reported.
  bool busy() const { return busy_ > 0; }

  /// Waits for the work of all owners, destroyed ones included.
  static void finishAll();

 private:
  struct Shared;
  static void run(const std::shared_ptr<Shared>& shared);
  std::shared_ptr<Shared> shared_;
  int busy_ = 0;
};

}  // namespace easel::app
