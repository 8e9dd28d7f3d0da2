#include "journal/learned.h"

#include <Eigen/Cholesky>
#include <Eigen/Core>
#include <algorithm>
#include <array>
#include <cmath>

namespace easel {
namespace {

std::array<std::pair<Correction::Of, const std::string*>, 4> partsOf(const TaughtReading& r) {
  using Of = Correction::Of;
  return {{{Of::Head, &r.head}, {Of::Modifier, &r.modifier}, {Of::Meter, &r.meter}, {Of::Room, &r.room}}};
}
// From how many spreads on a reading counts less, and how often it is weighed again.
constexpr double kHuber = 1.345;
constexpr int kRounds = 12;

}  // namespace

Learned::Learned(const std::vector<TaughtReading>& readings, LearnBy by) : by_(by) {
  for (const TaughtReading& r : readings)
    for (const auto& [of, id] : partsOf(r)) {
      if (id->empty()) continue;
      const auto known =
          std::find_if(corrections_.begin(), corrections_.end(),
                       [&, kind = of, name = id](const Correction& c) { return c.of == kind && c.id == *name; });
      if (known == corrections_.end())
        corrections_.push_back({of, *id, 0, by_.prior, 1});
      else
        ++known->readings;
    }
  const auto n = Eigen::Index(corrections_.size()), m = Eigen::Index(readings.size());
  if (n == 0) return;
  Eigen::MatrixXd a(m, n);
  Eigen::VectorXd y(m), weight = Eigen::VectorXd::Ones(m);
  for (Eigen::Index i = 0; i < m; ++i) {
    const std::vector<double> row = rowOf(readings[size_t(i)]);
    a.row(i) = Eigen::Map<const Eigen::RowVectorXd>(row.data(), n);
    y(i) = readings[size_t(i)].off;
  }
  const double noise = by_.spread * by_.spread;
  const Eigen::MatrixXd prior = Eigen::MatrixXd::Identity(n, n) / (by_.prior * by_.prior);
  Eigen::VectorXd x = Eigen::VectorXd::Zero(n);
  Eigen::LLT<Eigen::MatrixXd> solved;
  for (int round = 0; round < kRounds; ++round) {
    solved.compute(a.transpose() * weight.asDiagonal() * a / noise + prior);
    x = solved.solve(a.transpose() * weight.asDiagonal() * y / noise);
    const Eigen::VectorXd rest = y - a * x;
    for (Eigen::Index i = 0; i < m; ++i)
      weight(i) = std::min(1.0, kHuber * by_.spread / std::max(1e-9, std::abs(rest(i))));
  }
  const Eigen::MatrixXd covariance = solved.solve(Eigen::MatrixXd::Identity(n, n));
  covariance_.resize(size_t(n * n));
  Eigen::Map<Eigen::Matrix<double, Eigen::Dynamic, Eigen::Dynamic, Eigen::RowMajor>>(covariance_.data(), n, n) =
      covariance;
  for (Eigen::Index i = 0; i < n; ++i) {
    corrections_[size_t(i)].stops = x(i);
    corrections_[size_t(i)].uncertainty = std::sqrt(covariance(i, i));
  }
  for (Eigen::Index i = 0; i < m; ++i)
    if (weight(i) < 0.5) doubted_.push_back(size_t(i));
}

const Correction* Learned::of(Correction::Of kind, const std::string& id) const {
  for (const Correction& c : corrections_)
    if (c.of == kind && c.id == id) return &c;
  return nullptr;
}

std::vector<double> Learned::rowOf(const TaughtReading& r) const {
  std::vector<double> row(corrections_.size(), 0);
  for (const auto& [of, id] : partsOf(r))
    for (size_t i = 0; i < corrections_.size(); ++i)
      if (!id->empty() && corrections_[i].of == of && corrections_[i].id == *id) row[i] = 1;
  return row;
}

double Learned::varianceOf(const std::vector<double>& row, const TaughtReading& r) const {
  const size_t n = row.size();
  double sum = 0;
  for (size_t i = 0; i < n; ++i)
    for (size_t k = 0; k < n; ++k) sum += row[i] * row[k] * covariance_[i * n + k];
  for (const auto& [kind, id] : partsOf(r))
    if (!id->empty() && !of(kind, *id)) sum += by_.prior * by_.prior;
  return sum;
}

Learned::Prediction Learned::predict(const TaughtReading& gear) const {
  const std::vector<double> row = rowOf(gear);
  Prediction p;
  for (size_t i = 0; i < row.size(); ++i) p.stops += row[i] * corrections_[i].stops;
  p.uncertainty = std::sqrt(varianceOf(row, gear) + by_.spread * by_.spread);
  return p;
}

std::optional<size_t> Learned::teachesMost(const std::vector<TaughtReading>& candidates) const {
  // Read once more, each of the others is surer by its covariance with the one that is read (a rank-one update). What
  // has never been read stands beside the known as columns of its own.
  std::vector<std::pair<Correction::Of, std::string>> unknown;
  for (const TaughtReading& r : candidates)
    for (const auto& [kind, id] : partsOf(r))
      if (!id->empty() && !of(kind, *id) &&
          std::find(unknown.begin(), unknown.end(), std::pair(kind, *id)) == unknown.end())
        unknown.emplace_back(kind, *id);
  const auto n = Eigen::Index(corrections_.size()), all = n + Eigen::Index(unknown.size());
  Eigen::MatrixXd c = Eigen::MatrixXd::Identity(all, all) * (by_.prior * by_.prior);
  for (Eigen::Index i = 0; i < n; ++i)
    for (Eigen::Index k = 0; k < n; ++k) c(i, k) = covariance_[size_t(i * n + k)];
  std::vector<Eigen::VectorXd> rows;
  for (const TaughtReading& r : candidates) {
    Eigen::VectorXd row = Eigen::VectorXd::Zero(all);
    const std::vector<double> known = rowOf(r);
    for (Eigen::Index i = 0; i < n; ++i) row(i) = known[size_t(i)];
    for (const auto& [kind, id] : partsOf(r))
      for (size_t u = 0; u < unknown.size(); ++u)
        if (unknown[u] == std::pair(kind, *id)) row(n + Eigen::Index(u)) = 1;
    rows.push_back(row);
  }
  std::optional<size_t> best;
  double most = -1;
  for (size_t i = 0; i < rows.size(); ++i) {
    const Eigen::VectorXd with = c * rows[i];
    const double own = rows[i].dot(with) + by_.spread * by_.spread;
    double surer = 0;
    for (const Eigen::VectorXd& r : rows) surer += std::pow(r.dot(with), 2) / own;
    if (surer > most + 1e-12) {
      most = surer;
      best = i;
    }
  }
  return best;
}

std::vector<Drift> drifts(const std::vector<TaughtReading>& readings, const Learned& learned) {
  std::vector<Drift> out;
  for (const Correction& c : learned.corrections()) {
    if (c.of != Correction::Of::Head && c.of != Correction::Of::Modifier) continue;
    std::vector<double> own;
    for (const TaughtReading& r : readings) {
      double others = 0;
      bool is = false;
      for (const auto& [of, id] : partsOf(r)) {
        const Correction* k = id->empty() ? nullptr : learned.of(of, *id);
        if (of == c.of && *id == c.id)
          is = true;
        else if (k)
          others += k->stops;
      }
      if (is) own.push_back(r.off - others);
    }
    if (const auto by = drifted(own)) out.push_back({c.of, c.id, *by});
  }
  return out;
}

std::optional<double> drifted(const std::vector<double>& off, double spread) {
  constexpr size_t kFew = 3;
  if (off.size() < 2 * kFew) return {};
  const auto mean = [&](size_t from, size_t to) {
    double sum = 0;
    for (size_t i = from; i < to; ++i) sum += off[i];
    return sum / double(to - from);
  };
  const size_t split = off.size() - std::min(off.size() / 2, std::max(kFew, off.size() / 3));
  const double by = mean(split, off.size()) - mean(0, split);
  const double error = spread * std::sqrt(1 / double(off.size() - split) + 1 / double(split));
  return std::abs(by) > 3 * error ? std::optional(by) : std::nullopt;
}

}  // namespace easel
