// What devices and the program say to each other: JSON, one message a line (docs/formats/wire.md).
//
//   {"hello": "jolly-easel-wire", "version": 1, "device": "meter", "name": "pocket", "abilities": ["read"]}
//   {"welcome": 1}                                     or {"refused": "Version 9 is not understood here..."}
//   {"ask": "read", "id": 7, "iso": 100, "towards": "A"}
//   {"answer": 7, "fNumber": 5.93}                     or {"problem": 7, "sentence": "No flash came."}
//   {"tell": "reading", "fNumber": 5.93}               a button was pressed on the device
//
// Besides what is named here a message carries values: numbers, texts and yes or no, by name; nothing nested. Any
// thread; no state.
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

namespace easel {

enum class DeviceKind { Meter, Trigger, Camera, Remote };
std::string deviceName(DeviceKind kind);  ///< "meter", "trigger", "camera", "remote": as on the wire

using WireValue = std::variant<double, bool, std::string>;
using WireValues = std::map<std::string, WireValue>;

struct WireMessage {
  enum class Kind { Hello, Welcome, Refused, Ask, Answer, Problem, Tell } kind = Kind::Tell;
  int version = 1;                        ///< Hello, Welcome
  DeviceKind device = DeviceKind::Meter;  ///< Hello
  std::string name;                       ///< Hello: of the device. Ask, Tell: what
  std::vector<std::string> abilities;     ///< Hello: what may be asked
  long long id = 0;                       ///< Ask, Answer, Problem
  std::string sentence;                   ///< Problem, Refused
  WireValues values;

  /// Empty where it is missing or of another kind.
  const double* number(const std::string& name) const;
  const bool* yes(const std::string& name) const;
  const std::string* text(const std::string& name) const;
};

constexpr int kWireVersion = 1;
constexpr size_t kWireLine = 16 << 10;  ///< bytes of a line, at most

/// Throws FileError with a sentence. A hello of another version is read as far as its version.
WireMessage readMessage(std::string_view line);
/// With the end of the line. Values that are no finite numbers are left out.
std::string writeMessage(const WireMessage& message);

/// Bytes as they come, into lines. A line that is too long is dropped to its end, and counted.
class WireLines {
 public:
  std::vector<std::string> feed(std::string_view bytes);
  int dropped() const { return dropped_; }

 private:
  std::string rest_;
  bool dropping_ = false;
  int dropped_ = 0;
};

}  // namespace easel
