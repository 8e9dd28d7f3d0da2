#include "wire/link.h"

#include <algorithm>
#include <utility>

#include "files/json_front.h"
#include "spoken/say.h"

namespace easel {
namespace {

using E = WireEvent::Kind;
using K = WireMessage::Kind;
constexpr size_t kRemembered = 64;

// Lines that are messages; notes for the others.
void read(WireLines& lines, std::string_view bytes, int& dropped, std::vector<WireEvent>& out,
          const std::function<void(WireMessage)>& take) {
  for (const std::string& line : lines.feed(bytes)) {
    try {
      take(readMessage(line));
    } catch (const FileError& e) {
      out.push_back({E::Noted, {}, say("A message was not understood and is left: {}", e.what()), 0});
    }
  }
  for (; dropped < lines.dropped(); ++dropped)
    out.push_back({E::Noted, {}, say("A message was longer than {} bytes and is left.", kWireLine), 0});
}

}  // namespace

std::vector<WireEvent> ProgramLink::take(std::string_view bytes) {
  std::vector<WireEvent> events;
  read(lines_, bytes, dropped_, events, [&](WireMessage m) {
    if (m.kind == K::Hello) {
      if (m.version != kWireVersion) {
        const std::string why =
            say("The device speaks version {} of the wire; this program speaks {}. Use one that does.", m.version,
                kWireVersion);
        WireMessage no;
        no.kind = K::Refused;
        no.sentence = why;
        out_ += writeMessage(no);
        events.push_back({E::Refused, {}, why, 0});
        return;
      }
      if (device_) {
        events.push_back({E::Noted, {}, say("{} said hello twice.", foreign(m.name)), 0});
        return;
      }
      device_ = m;
      WireMessage yes;
      yes.kind = K::Welcome;
      out_ += writeMessage(yes);
      events.push_back({E::Joined, std::move(m), {}, 0});
      return;
    }
    if (!device_) {
      events.push_back({E::Noted, {}, say("A device spoke before it said who it is; that is left."), 0});
      return;
    }
    if (m.kind == K::Tell) {
      events.push_back({E::Told, std::move(m), {}, 0});
      return;
    }
    if (m.kind != K::Answer && m.kind != K::Problem) {
      events.push_back({E::Noted, {}, say("{} sent what a device does not send.", foreign(device_->name)), 0});
      return;
    }
    const auto at = std::find_if(open_.begin(), open_.end(), [&](const Open& o) { return o.id == m.id; });
    if (at == open_.end()) {
      const bool late = std::find(past_.begin(), past_.end(), m.id) != past_.end();
      events.push_back({E::Noted,
                        {},
                        late ? say("{} answered late, or twice; that is left.", foreign(device_->name))
                             : say("{} answered what nobody asked.", foreign(device_->name)),
                        0});
      return;
    }
    past_.push_back(at->id);
    if (past_.size() > kRemembered) past_.pop_front();
    open_.erase(at);
    const long long id = m.id;
    if (m.kind == K::Answer)
      events.push_back({E::Answered, std::move(m), {}, id});
    else
      events.push_back({E::Failed, {}, say("{}: {}", foreign(device_->name), foreign(m.sentence)), id});
  });
  return events;
}

long long ProgramLink::ask(const std::string& what, const WireValues& values, WireTime now) {
  if (!device_) return 0;
  WireMessage m;
  m.kind = K::Ask;
  m.name = what;
  m.id = ++last_;
  m.values = values;
  out_ += writeMessage(m);
  open_.push_back({m.id, what, now + kWirePatience});
  return m.id;
}

std::vector<WireEvent> ProgramLink::overdue(WireTime now) {
  std::vector<WireEvent> out;
  for (size_t i = 0; i < open_.size();) {
    if (now < open_[i].until) {
      ++i;
      continue;
    }
    out.push_back({E::Failed,
                   {},
                   say("{} has not answered for {} seconds. Check that it is switched on, or go on by hand.",
                       foreign(device_->name), kWirePatience.count()),
                   open_[i].id});
    past_.push_back(open_[i].id);
    if (past_.size() > kRemembered) past_.pop_front();
    open_.erase(open_.begin() + long(i));
  }
  return out;
}

std::vector<WireEvent> ProgramLink::gone() {
  std::vector<WireEvent> out;
  for (const Open& o : open_)
    out.push_back({E::Failed, {}, say("{} has disconnected. Go on by hand.", foreign(device_->name)), o.id});
  open_.clear();
  return out;
}

std::string ProgramLink::out() { return std::exchange(out_, {}); }

bool ProgramLink::can(const std::string& what) const {
  return device_ && std::find(device_->abilities.begin(), device_->abilities.end(), what) != device_->abilities.end();
}

DeviceLink::DeviceLink(DeviceKind kind, const std::string& name, const std::vector<std::string>& abilities) {
  WireMessage hello;
  hello.kind = K::Hello;
  hello.device = kind;
  hello.name = name;
  hello.abilities = abilities;
  out_ = writeMessage(hello);
}

std::vector<WireEvent> DeviceLink::take(std::string_view bytes) {
  std::vector<WireEvent> events;
  int dropped = lines_.dropped();
  read(lines_, bytes, dropped, events, [&](WireMessage m) {
    if (m.kind == K::Welcome) {
      welcome_ = true;
    } else if (m.kind == K::Refused) {
      events.push_back({E::Refused, {}, m.sentence, 0});
    } else if (m.kind == K::Ask) {
      const auto at = std::find_if(said_.begin(), said_.end(), [&](const auto& s) { return s.first == m.id; });
      if (at != said_.end()) {
        out_ += at->second;  // the same answer; empty while it is being found
        events.push_back({E::Noted, {}, say("The same was asked twice and done once."), 0});
        return;
      }
      keep(m.id, {});
      const long long id = m.id;
      events.push_back({E::Asked, std::move(m), {}, id});
    } else {
      events.push_back({E::Noted, {}, say("The program sent what a program does not send."), 0});
    }
  });
  return events;
}

void DeviceLink::keep(long long id, const std::string& line) {
  for (auto& [number, said] : said_)
    if (number == id) {
      said = line;
      return;
    }
  said_.push_back({id, line});
  if (said_.size() > kRemembered) said_.pop_front();
}

void DeviceLink::answer(long long id, const WireValues& values) {
  WireMessage m;
  m.kind = K::Answer;
  m.id = id;
  m.values = values;
  const std::string line = writeMessage(m);
  keep(id, line);
  out_ += line;
}
void DeviceLink::problem(long long id, const std::string& sentence) {
  WireMessage m;
  m.kind = K::Problem;
  m.id = id;
  m.sentence = sentence;
  const std::string line = writeMessage(m);
  keep(id, line);
  out_ += line;
}
void DeviceLink::tell(const std::string& what, const WireValues& values) {
  WireMessage m;
  m.kind = K::Tell;
  m.name = what;
  m.values = values;
  out_ += writeMessage(m);
}
std::string DeviceLink::out() { return std::exchange(out_, {}); }

}  // namespace easel
