// One line of a trace (docs/behaviour.md, Traces), read and applied. Shared by trace mode and live mode.
#ifndef VESTIBULE_HOST_EVENTS_H
#define VESTIBULE_HOST_EVENTS_H

#include <string>
#include <vector>

#include "vestibule.h"

namespace host {

struct Event {
  enum class Kind {
    power,
    link,
    clock,
    level,
    frame,
    edges,
    message,
    character,
    line,
    sensor,
    // of a wire
    open,
    heard,
    answer,
    call,
    passesBy
  } kind = Kind::passesBy;
  uint32_t t = 0;
  bool on = false;  // power on, link up
  std::string pin;  // level
  uint8_t level = 0;
  std::string topic;  // message
  std::string payload;
  bool retain = false;
  std::string of;            // the link of a message or a link's change; empty: the first
  uint32_t weekMs = 0;       // clock
  vestibule::Frame frame{};  // frame
  bool repeat = false;
  std::vector<uint16_t> durations;  // edges
  char character = 0;
  std::string line;
  std::string sensor;
  uint16_t status = 0;  // answer
  std::string method;   // call
  std::string path;
  std::string key;
  std::string once;
  int32_t value = 0;  // thousandths
};

/// Reads one JSON line. False: not an event of a trace.
bool readEvent(const std::string& line, Event& event);

/// Applies events of one instant in the order of docs/behaviour.md. False with what the image does not have: an input,
/// a link.
bool applyInstant(vestibule::Device& device, uint32_t now, const std::vector<Event>& events, std::string& unknown);

/// Is it of a wire?
inline bool isOfWire(const Event& event) { return event.kind >= Event::Kind::open && event.kind <= Event::Kind::call; }
/// A link by its id; an empty one is the first. False: there is none.
bool findLink(const vestibule::Image& image, const std::string& name, uint8_t& link);

/// Text as a JSON string, with its quotes.
std::string quoted(const std::string& text);

}  // namespace host

#endif
