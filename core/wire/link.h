// Both ends of the wire as values without a socket: bytes go in, what happened comes out, and bytes to be sent.
//
// The program's end (ProgramLink) greets one device, asks, and knows what is late. The device's end (DeviceLink)
// answers; what is asked twice under one number gets the same answer again and is done once. What cannot be understood
// is noted and left; nothing here throws. Time is the caller's. One thread.
#pragma once

#include <chrono>
#include <deque>
#include <functional>
#include <optional>

#include "wire/message.h"

namespace easel {

using WireTime = std::chrono::steady_clock::time_point;
constexpr std::chrono::seconds kWirePatience{8};  ///< for an answer

struct WireEvent {
  enum class Kind {
    Joined,    ///< the device has said who it is
    Answered,  ///< `message` is the answer
    Failed,    ///< ... or why there is none: `note`
    Told,      ///< the device speaks unasked
    Asked,     ///< DeviceLink: the program wants something
    Noted,     ///< something was not understood, and left: `note`
    Refused    ///< no common language: `note`; the connection is to be closed
  } kind;
  WireMessage message;
  std::string note;
  long long id = 0;  ///< Answered, Failed: what ask() gave
};

class ProgramLink {
 public:
  /// What has come from the device.
  std::vector<WireEvent> take(std::string_view bytes);
  /// The number of the question; its line is in out(). 0, and nothing is sent, before the device has joined.
  long long ask(const std::string& what, const WireValues& values, WireTime now);
  /// Questions whose time is over; they are Failed, and a late answer is noted.
  std::vector<WireEvent> overdue(WireTime now);
  /// The device has gone: whatever was asked is Failed.
  std::vector<WireEvent> gone();
  /// What is to be sent since the last call.
  std::string out();

  const std::optional<WireMessage>& device() const { return device_; }  ///< its hello
  bool can(const std::string& what) const;

 private:
  WireLines lines_;
  std::optional<WireMessage> device_;
  struct Open {
    long long id;
    std::string what;
    WireTime until;
  };
  std::vector<Open> open_;
  std::deque<long long> past_;  ///< answered or given up
  long long last_ = 0;
  int dropped_ = 0;
  std::string out_;
};

class DeviceLink {
 public:
  /// The greeting is in out() at once.
  DeviceLink(DeviceKind kind, const std::string& name, const std::vector<std::string>& abilities);
  std::vector<WireEvent> take(std::string_view bytes);
  void answer(long long id, const WireValues& values);
  void problem(long long id, const std::string& sentence);
  void tell(const std::string& what, const WireValues& values);
  std::string out();
  bool welcome() const { return welcome_; }

 private:
  void keep(long long id, const std::string& line);
  WireLines lines_;
  bool welcome_ = false;
  std::deque<std::pair<long long, std::string>> said_;  ///< the last answers, by number; empty: on its way
  std::string out_;
};

}  // namespace easel
