// A path tracer for what the meter reads in a room: all orders of reflection, brute force. It shares no code with the
// program it is to check; its only input are the plain numbers of export.cpp.
//
// Light is followed from the lamp. At every surface that a path meets, what that surface sends to each receptor is
// added (next event towards the receptor); then the path goes on, cosine-distributed, until roulette ends it. Direct
// light is summed over points of the lamp. Everything is diffuse, in red, green and blue; figures are luminance (Rec.
// 709). Output: a line a spot, lux per lumen of the bare head: direct, reflected, standard error of the latter in stops
// of the sum. `trace closed` checks it against the closed room, E = flux / (area (1 - reflectance)).
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <future>
#include <iostream>
#include <numbers>
#include <random>
#include <sstream>
#include <string>
#include <vector>

namespace {
constexpr double kPi = std::numbers::pi;
struct V {
  double x = 0, y = 0, z = 0;
};
V operator+(V a, V b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
V operator-(V a, V b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
V operator*(V a, double s) { return {a.x * s, a.y * s, a.z * s}; }
V operator*(V a, V b) { return {a.x * b.x, a.y * b.y, a.z * b.z}; }
double dot(V a, V b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
V cross(V a, V b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }
V unit(V a) { return a * (1 / std::sqrt(dot(a, a))); }
double luminance(V c) { return 0.2126 * c.x + 0.7152 * c.y + 0.0722 * c.z; }
std::istream& operator>>(std::istream& in, V& v) { return in >> v.x >> v.y >> v.z; }

struct Random {
  std::mt19937_64 engine;
  double operator()() { return double(engine() >> 11) * 0x1p-53; }
};
V about(V n, double cosine, double turn) {
  const V u = unit(std::abs(n.x) < 0.6 ? cross({1, 0, 0}, n) : cross({0, 1, 0}, n)), v = cross(n, u);
  const double s = std::sqrt(std::max(0.0, 1 - cosine * cosine));
  return u * (s * std::cos(turn)) + v * (s * std::sin(turn)) + n * cosine;
}
V scattered(V n, Random& r) {
  const double c = std::sqrt(r());
  return about(n, c, 2 * kPi * r());
}

struct Hit {
  double t = 1e9;
  V normal, colour;
  double through = 0;
};
struct Face {
  V corner, across, up, normal, colour;
  double through = 0;
  bool disc = false;
  void meet(V o, V d, Hit& best) const {
    const double facing = dot(d, normal);
    if (facing >= -1e-12) return;  // one-sided: the other side is a face of its own
    const double t = dot(corner - o, normal) / facing;
    if (t < 1e-6 || t >= best.t) return;
    const V p = o + d * t - corner;
    const double a = dot(p, across) / dot(across, across), b = dot(p, up) / dot(up, up);
    if (a < 0 || a > 1 || b < 0 || b > 1) return;
    if (disc && (2 * a - 1) * (2 * a - 1) + (2 * b - 1) * (2 * b - 1) > 1) return;
    best = {t, normal, colour, through};
  }
};

struct Triangle {
  std::array<float, 3> a, b, c, colour;
};
V at(const std::array<float, 3>& p) { return {p[0], p[1], p[2]}; }

// Halved by the middle of the longest side.
struct Tree {
  struct Node {
    V low, high;
    int first = 0, count = 0, right = 0;
  };
  std::vector<Triangle> triangles;
  std::vector<Node> nodes;
  void build() {
    if (!triangles.empty()) split(0, int(triangles.size()));
  }
  int split(int first, int last) {
    Node n;
    n.low = {1e9, 1e9, 1e9};
    n.high = {-1e9, -1e9, -1e9};
    for (int i = first; i < last; ++i)
      for (const auto* p : {&triangles[size_t(i)].a, &triangles[size_t(i)].b, &triangles[size_t(i)].c}) {
        const V v = at(*p);
        n.low = {std::min(n.low.x, v.x), std::min(n.low.y, v.y), std::min(n.low.z, v.z)};
        n.high = {std::max(n.high.x, v.x), std::max(n.high.y, v.y), std::max(n.high.z, v.z)};
      }
    n.first = first;
    n.count = last - first;
    const int me = int(nodes.size());
    nodes.push_back(n);
    if (n.count <= 4) return me;
    const V s = n.high - n.low;
    const size_t axis = s.x > s.y && s.x > s.z ? 0 : s.y > s.z ? 1 : 2;
    const int middle = (first + last) / 2;
    const auto key = [axis](const Triangle& t) { return t.a[axis] + t.b[axis] + t.c[axis]; };
    std::nth_element(triangles.begin() + first, triangles.begin() + middle, triangles.begin() + last,
                     [&](const Triangle& x, const Triangle& y) { return key(x) < key(y); });
    split(first, middle);
    const int right = split(middle, last);
    nodes[size_t(me)].right = right;
    nodes[size_t(me)].count = 0;
    return me;
  }
  void meet(V o, V d, Hit& best) const {
    if (nodes.empty()) return;
    const V inv{1 / d.x, 1 / d.y, 1 / d.z};
    int stack[64], top = 0;
    stack[top++] = 0;
    while (top) {
      const int id = stack[--top];
      const Node& n = nodes[size_t(id)];
      double near = 1e-6, far = best.t;
      for (int k = 0; k < 3; ++k) {
        const double lo = k == 0   ? n.low.x
                          : k == 1 ? n.low.y
                                   : n.low.z,
                     hi = k == 0   ? n.high.x
                          : k == 1 ? n.high.y
                                   : n.high.z,
                     oo = k == 0   ? o.x
                          : k == 1 ? o.y
                                   : o.z,
                     ii = k == 0   ? inv.x
                          : k == 1 ? inv.y
                                   : inv.z;
        const double a = (lo - oo) * ii, b = (hi - oo) * ii;
        near = std::max(near, std::min(a, b));
        far = std::min(far, std::max(a, b));
      }
      if (near > far) continue;
      if (!n.count) {
        stack[top++] = n.right;
        stack[top++] = id + 1;
        continue;
      }
      for (int i = n.first; i < n.first + n.count; ++i) {
        const Triangle& t = triangles[size_t(i)];
        const V a = at(t.a), e1 = at(t.b) - a, e2 = at(t.c) - a, p = cross(d, e2);
        const double det = dot(e1, p);
        if (std::abs(det) < 1e-18) continue;
        const V s = o - a, q = cross(s, e1);
        const double u = dot(s, p) / det, v = dot(d, q) / det, w = dot(e2, q) / det;
        if (u < 0 || v < 0 || u + v > 1 || w < 1e-5 || w >= best.t) continue;
        V normal = unit(cross(e1, e2));
        if (dot(normal, d) > 0) normal = normal * -1.0;
        best = {w, normal, at(t.colour), 0};
      }
    }
  }
};

struct Lamp {
  int outline = 0;  // 0 rectangle, 1 octagon, 2 disc, 4 ball
  double width = 0, height = 0, transmission = 0, lobe = 1, hot = 0, back = 0;
  V centre, u, v, n;
  double even = 1;  // mean over the front
  bool inside(double x, double y) const {
    if (outline == 2) return x * x + y * y <= width * width / 4;
    if (outline == 1) return std::abs(x) + std::abs(y) <= std::sqrt(2.0) * width / 2;
    return true;
  }
  double evenness(double x, double y) const {
    const double a = 2 * x / width, b = 2 * y / height;
    return std::exp2(-hot * std::min(1.5, a * a + b * b));
  }
  // `out`: which way the surface looks there.
  V place(Random& r, double* e, V* out) const {
    *out = n;
    if (outline == 4) {
      const double z = 1 - 2 * r(), a = 2 * kPi * r(), s = std::sqrt(1 - z * z);
      *e = 1;
      *out = {s * std::cos(a), s * std::sin(a), z};
      return centre + *out * (width / 2);
    }
    for (;;) {
      const double x = (r() - 0.5) * width, y = (r() - 0.5) * height;
      if (!inside(x, y)) continue;
      *e = evenness(x, y);
      return centre + u * x + v * y;
    }
  }
  void measure() {
    Random r{std::mt19937_64(5)};
    double sum = 0, e = 0;
    V out;
    for (int i = 0; i < 400000; ++i) place(r, &e, &out), sum += e;
    even = sum / 400000;
  }
  // Intensity per unit of area in that direction, cosine included, one lumen from the head.
  double intensity(double cosine, double e, double area) const {
    if (cosine < 0) return transmission * back / (kPi * area) * -cosine;
    return transmission * (1 - back) * (lobe + 1) / (2 * kPi * area) * std::pow(cosine, lobe) * e / even;
  }
  double area() const {
    return outline == 4   ? kPi * width * width
           : outline == 2 ? kPi * width * width / 4
           : outline == 1 ? 2 * (std::sqrt(2.0) - 1) * width * width
                          : width * height;
  }
};

struct Spot {
  std::string name;
  bool dome = false;
  V at, n;
  double response(V towards) const { return dome ? (1 + dot(n, towards)) / 2 : std::max(0.0, dot(n, towards)); }
};

struct Case {
  std::string name;
  std::vector<Face> faces;
  Tree gear;
  Lamp lamp;
  std::vector<Spot> spots;
};

Hit meet(const Case& c, const Tree* sitter, V o, V d) {
  Hit h;
  for (const Face& f : c.faces) f.intersect(o, d, h);
  if (sitter) sitter->intersect(o, d, h);
  c.gear.intersect(o, d, h);
  return h;
}
bool open(const Case& c, const Tree* sitter, V o, V d, double distance) {
  // One-sided faces: seen from behind they are their other side, which is a face of its own.
  return meet(c, sitter, o, d).t > distance - 2e-4;
}

struct Figures {
  std::vector<double> direct, reflected, squares;
};

Figures traced(const Case& c, const Tree* sitter, int paths, unsigned seed) {
  Random r{std::mt19937_64(seed)};
  Figures f;
  const size_t n = c.spots.size();
  f.direct.assign(n, 0);
  f.reflected.assign(n, 0);
  f.squares.assign(n, 0);
  const Lamp& l = c.lamp;
  const double area = l.area();
  const int points = std::max(20000, paths / 4);
  for (size_t s = 0; s < n; ++s)
    for (int i = 0; i < points; ++i) {
      double e = 0;
      V out;
      const V p = l.place(r, &e, &out), d = p - c.spots[s].at;
      const double d2 = dot(d, d), distance = std::sqrt(d2);
      const V to = d * (1 / distance);
      const double given = l.intensity(-dot(to, out), e, area) * area / d2 * c.spots[s].response(to);
      if (given > 0 && open(c, sitter, c.spots[s].at, to, distance)) f.direct[s] += given / points;
    }
  std::vector<double> here(n);
  for (int i = 0; i < paths; ++i) {
    std::fill(here.begin(), here.end(), 0.0);
    double e = 0;
    V out0, d;
    V o = l.place(r, &e, &out0);
    double weight = 0;
    if (r() < l.back) {
      d = scattered(out0 * -1.0, r);
      weight = l.transmission;  // even over the back
    } else {
      const double cosine = std::pow(r(), 1 / (l.lobe + 1));
      d = about(out0, cosine, 2 * kPi * r());
      weight = l.transmission * e / l.even;
    }
    V flux{weight, weight, weight};
    for (int depth = 0; depth < 200; ++depth) {
      const Hit h = meet(c, sitter, o, d);
      if (h.t > 1e8) break;
      V p = o + d * h.t, normal = h.normal;
      // Back, or through to the other side.
      const double back = std::max({h.colour.x, h.colour.y, h.colour.z}), all = back + h.through;
      if (all <= 0) break;
      for (int side = 0; side < (h.through > 0 ? 2 : 1); ++side) {
        const V out = side ? normal * -1.0 : normal, share = side ? V{h.through, h.through, h.through} : h.colour;
        const V from = p + out * 2e-5;
        for (size_t s = 0; s < n; ++s) {
          const V to = c.spots[s].at - from;
          const double d2 = dot(to, to), distance = std::sqrt(d2);
          const V way = to * (1 / distance);
          const double cosine = dot(out, way), given = c.spots[s].response(way * -1.0);
          if (cosine <= 0 || given <= 0) continue;
          if (!open(c, sitter, from, way, distance)) continue;
          here[s] += luminance(flux * share) / kPi * cosine * given / d2;
        }
      }
      const bool through = h.through > 0 && r() < h.through / all;
      const V out = through ? normal * -1.0 : normal;
      flux =
          flux * (through ? V{h.through, h.through, h.through} : h.colour) * (1 / (through ? h.through : back) * all);
      const double lives = std::min(0.95, std::max({flux.x, flux.y, flux.z}) / weight);
      if (depth > 3) {
        if (r() >= lives) break;
        flux = flux * (1 / lives);
      }
      o = p + out * 2e-5;
      d = scattered(out, r);
    }
    for (size_t s = 0; s < n; ++s) {
      f.reflected[s] += here[s] / paths;
      f.squares[s] += here[s] * here[s] / paths;
    }
  }
  return f;
}

void report(const Case& c, const Tree* sitter, int paths) {
  constexpr int kParts = 2;
  std::vector<std::future<Figures>> parts;
  for (unsigned i = 0; i < kParts; ++i)
    parts.push_back(std::async(std::launch::async, [&, i] { return traced(c, sitter, paths / kParts, 11 + 97 * i); }));
  Figures sum;
  for (auto& p : parts) {
    const Figures f = p.get();
    if (sum.direct.empty())
      sum = f;
    else
      for (size_t s = 0; s < f.direct.size(); ++s)
        sum.direct[s] += f.direct[s], sum.reflected[s] += f.reflected[s], sum.squares[s] += f.squares[s];
  }
  for (size_t s = 0; s < c.spots.size(); ++s) {
    const double d = sum.direct[s] / kParts, b = sum.reflected[s] / kParts, q = sum.squares[s] / kParts;
    const double error = std::sqrt(std::max(0.0, q - b * b) / paths);
    std::printf("    {\"%s\", \"%s\", %.6g, %.6g, %.3f},\n", c.name.c_str(), c.spots[s].name.c_str(), d, b,
                error / (d + b) / std::numbers::ln2);
  }
  std::fflush(stdout);
}

// A closed cube of one reflectance: the mean illuminance over its walls, receptors that look out of them spread evenly.
int closedRoom() {
  for (double rho : {0.2, 0.5, 0.8}) {
    Case c;
    const V m[6] = {{1, 0, 0}, {-1, 0, 0}, {0, 1, 0}, {0, -1, 0}, {0, 0, 1}, {0, 0, -1}};
    for (const V& n : m) {
      const V u = std::abs(n.x) > 0.5 ? V{0, 1, 0} : V{1, 0, 0}, v = cross(n, u);
      c.faces.push_back({n * -1.5 - u * 1.5 - v * 1.5, u * 3.0, v * 3.0, n, {rho, rho, rho}, 0, false});
      Random r{std::mt19937_64(17)};
      for (int a = 0; a < 10; ++a)
        for (int b = 0; b < 10; ++b)
          c.spots.push_back({"wall", false, n * -1.499 + u * ((a + r()) * 0.3 - 1.5) + v * ((b + r()) * 0.3 - 1.5), n});
    }
    c.lamp.width = c.lamp.height = 0.6;
    c.lamp.transmission = 1;
    c.lamp.lobe = 1;
    c.lamp.u = {1, 0, 0};
    c.lamp.v = {0, 1, 0};
    c.lamp.n = {0, 0, 1};
    c.lamp.measure();
    const Figures f = traced(c, nullptr, 10000, 3);
    double mean = 0;
    for (size_t s = 0; s < f.direct.size(); ++s) mean += (f.direct[s] + f.reflected[s]) / double(f.direct.size());
    const double expected = 1 / (54 * (1 - rho));
    std::printf("closed room, reflectance %.1f: %.5f for %.5f lux per lumen, %.3f stop off\n", rho, mean, expected,
                std::log2(mean / expected));
  }
  return 0;
}
}  // namespace

int main(int argc, char** argv) {
  if (argc > 1 && std::string(argv[1]) == "closed") return closedRoom();
  if (argc < 2) return std::fprintf(stderr, "usage: trace FOLDER [PATHS [NAME]] | trace closed\n"), 2;
  const std::string folder = argv[1], only = argc > 3 ? argv[3] : "";
  const int paths = argc > 2 ? std::atoi(argv[2]) : 200000;
  Tree sitter;
  std::ifstream mesh(folder + "/sitter.bin", std::ios::binary);
  for (Triangle t; mesh.read(reinterpret_cast<char*>(&t), sizeof t);) sitter.triangles.push_back(t);
  sitter.build();
  std::fprintf(stderr, "%zu triangles\n", sitter.triangles.size());
  std::ifstream in(folder + "/rooms.txt");
  Case c;
  for (std::string line; std::getline(in, line);) {
    std::istringstream s(line);
    std::string word;
    s >> word;
    if (word == "case") {
      c = {};
      c.name = line.substr(5);
    } else if (word == "face") {
      Face f;
      s >> f.corner >> f.across >> f.up >> f.normal >> f.colour >> f.through >> f.disc;
      c.faces.push_back(f);
    } else if (word == "gear") {
      Triangle t;
      for (auto* p : {&t.a, &t.b, &t.c, &t.colour}) s >> (*p)[0] >> (*p)[1] >> (*p)[2];
      c.gear.triangles.push_back(t);
    } else if (word == "lamp") {
      Lamp& l = c.lamp;
      s >> l.outline >> l.width >> l.height >> l.transmission >> l.lobe >> l.hot >> l.back >> l.centre >> l.u >> l.v >>
          l.n;
      l.measure();
    } else if (word == "spot") {
      Spot p;
      s >> p.name >> p.dome >> p.at >> p.n;
      c.spots.push_back(p);
    } else if (word == "end") {
      c.gear.build();
      if (only.empty() || c.name.find(only) != std::string::npos) report(c, &sitter, paths);
    }
  }
}
