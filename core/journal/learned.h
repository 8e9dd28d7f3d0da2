// What readings teach about the gear of a studio: how much each head, each modifier, the meter and the room give over
// (+) or under (-) what is predicted, in stops, with its uncertainty.
//
// A reading is off by the sum of four corrections and of what nobody plans (a stand some centimetres nearer, a hand):
//
//   read - predicted = head + modifier + meter + room + rest,   rest ~ N(0, spread)
//
// Linear least squares in stops with a normal prior of width `prior` about zero for each correction (ridge regression,
// which is the posterior mean), solved with Eigen. Outliers and misfires count less: Huber's weights, reweighted a few
// times (P. J. Huber, "Robust Statistics", Wiley 1981). What always comes together cannot be told apart: one meter in
// one room with one head is known by its sum alone, and each part keeps the uncertainty that says so; the sum is sure.
// Any thread; thousands of readings in milliseconds.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace easel {

struct TaughtReading {
  std::string head, modifier, meter, room;  ///< ids; an empty one takes no part
  double off = 0;                           ///< stops, read over predicted
};

struct Correction {
  enum class Of { Head, Modifier, Meter, Room } of = Of::Head;
  std::string id;
  double stops = 0, uncertainty = 0;  ///< mean and standard deviation
  int readings = 0;
};

struct LearnBy {
  double prior = 1.0 / 3, spread = 0.1;
};

class Learned {
 public:
  explicit Learned(const std::vector<TaughtReading>& readings, LearnBy by = {});

  const std::vector<Correction>& corrections() const { return corrections_; }
  /// nullptr when no reading speaks of it.
  const Correction* of(Correction::Of kind, const std::string& id) const;

  /// What a prediction with that gear is to be moved by, and how sure it then is: standard deviation in stops, the rest
  /// included. Gear that was never read has its prior.
  struct Prediction {
    double stops = 0, uncertainty = 0;
  };
  Prediction predict(const TaughtReading& gear) const;

  /// Of the candidates, the reading after which the candidates together are the surest; empty for none.
  std::optional<size_t> teachesMost(const std::vector<TaughtReading>& candidates) const;

  /// Readings that count less than half: misfires, a meter held wrongly.
  const std::vector<size_t>& doubted() const { return doubted_; }

 private:
  std::vector<double> rowOf(const TaughtReading& r) const;
  double varianceOf(const std::vector<double>& row, const TaughtReading& r) const;
  LearnBy by_;
  std::vector<Correction> corrections_;
  std::vector<double> covariance_;  ///< row by row
  std::vector<size_t> doubted_;
};

/// A head or a modifier whose last readings have left the older ones.
struct Drift {
  Correction::Of of = Correction::Of::Head;
  std::string id;
  double stops = 0;
};
/// In the order in which they were read; what else is known to be off is taken off first.
std::vector<Drift> drifts(const std::vector<TaughtReading>& readings, const Learned& learned);

/// Stops by which the last readings of a thing have left the older ones, in the order in which they were read; empty
/// when there are fewer than three of each, or they have not. A lamp that ages, a cloth that yellows.
std::optional<double> drifted(const std::vector<double>& off, double spread = 0.1);

}  // namespace easel
