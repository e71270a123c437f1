#include "events.h"

#include <cmath>
#include <cstdio>

#include "json.h"

namespace host {

namespace {

bool readMessage(const Json& msg, Event& event) {
  const Json* topic = msg.find("topic");
  const Json* payload = msg.find("payload");
  const Json* retain = msg.find("retain");
  if (topic == nullptr || payload == nullptr || retain == nullptr) return false;
  event.kind = Event::Kind::message;
  event.topic = topic->text;
  event.payload = payload->text;
  event.retain = retain->boolean;
  return true;
}

bool readFrame(const Json& ir, Event& event) {
  const Json* protocol = ir.find("protocol");
  if (protocol == nullptr) return false;
  event.kind = Event::Kind::frame;
  event.frame.toggle = vestibule::NO_TOGGLE;
  bool known = false;
#define VESTIBULE_NAMED(id, name)                   \
  if (protocol->text == name) {                     \
    event.frame.protocol = vestibule::Protocol::id; \
    known = true;                                   \
  }
  VESTIBULE_PROTOCOLS(VESTIBULE_NAMED)
#undef VESTIBULE_NAMED
  if (const Json* hash = ir.find("hash")) {
    const uint32_t value = static_cast<uint32_t>(hash->number);
    event.frame.address = static_cast<uint16_t>(value >> 16);
    event.frame.command = static_cast<uint16_t>(value);
  }
  if (const Json* address = ir.find("address")) event.frame.address = static_cast<uint16_t>(address->number);
  if (const Json* command = ir.find("command")) event.frame.command = static_cast<uint16_t>(command->number);
  const Json* toggle = ir.find("toggle");
  if (toggle != nullptr && toggle->kind == Json::Kind::number)
    event.frame.toggle = static_cast<uint8_t>(toggle->number);
  const Json* repeat = ir.find("repeat");
  event.repeat = repeat != nullptr && repeat->boolean;
  return known;
}

// ms since Monday 00:00. Days by the civil calendar: days before the year, leap days by the Gregorian rule (ISO 8601).
bool readClock(const std::string& text, uint32_t& weekMs) {
  int year, month, day, hour, minute, second = 0;
  if (std::sscanf(text.c_str(), "%d-%d-%dT%d:%d:%d", &year, &month, &day, &hour, &minute, &second) < 5) return false;
  static const int BEFORE[] = {0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334};
  if (month < 1 || month > 12) return false;
  const int past = year - 1;
  const bool leap = (year % 4 == 0 && year % 100 != 0) || year % 400 == 0;
  // 0001-01-01 was a Monday in the proleptic Gregorian calendar
  const long days =
      past * 365L + past / 4 - past / 100 + past / 400 + BEFORE[month - 1] + (leap && month > 2 ? 1 : 0) + day - 1;
  weekMs =
      static_cast<uint32_t>(days % 7) * 86400000u + static_cast<uint32_t>((hour * 60 + minute) * 60 + second) * 1000u;
  return true;
}

std::string textOf(const Json& json, const char* name) {
  const Json* found = json.find(name);
  return found == nullptr ? std::string() : found->text;
}

bool flagOf(const Json& json, const char* name) {
  const Json* found = json.find(name);
  return found != nullptr && found->boolean;
}

// What comes over a wire; anything else passes by.
bool readWireEvent(const Json& json, Event& event) {
  if (const Json* open = json.find("open")) {
    event.kind = Event::Kind::open;
    event.on = open->boolean;
  } else if (const Json* heard = json.find("heard")) {
    event.kind = Event::Kind::heard;
    event.topic = textOf(*heard, "topic");
    event.payload = textOf(*heard, "payload");
    event.retain = flagOf(*heard, "stale");
  } else if (const Json* answer = json.find("answer")) {
    const Json* status = answer->find("status");
    if (status == nullptr) return false;
    event.kind = Event::Kind::answer;
    event.status = static_cast<uint16_t>(status->number);
    event.payload = textOf(*answer, "body");
  } else if (const Json* call = json.find("call")) {
    event.kind = Event::Kind::call;
    event.method = textOf(*call, "method");
    event.path = textOf(*call, "path");
    event.key = textOf(*call, "key");
    event.once = textOf(*call, "once");
  }
  return true;
}

}  // namespace

bool readEvent(const std::string& line, Event& event) {
  Json json;
  if (!readJson(line, json) || json.kind != Json::Kind::object) return false;
  const Json* t = json.find("t");
  if (t == nullptr || t->kind != Json::Kind::number || t->number < 0 || t->number > 4294967295.0) return false;
  event.t = static_cast<uint32_t>(t->number);
  if (const Json* of = json.find("of")) event.of = of->text;
  if (const Json* power = json.find("power")) {
    event.kind = Event::Kind::power;
    event.on = power->text == "on";
  } else if (const Json* link = json.find("link")) {
    event.kind = Event::Kind::link;
    event.on = link->text == "up";
  } else if (const Json* clock = json.find("clock")) {
    event.kind = Event::Kind::clock;
    return readClock(clock->text, event.weekMs);
  } else if (const Json* pin = json.find("pin")) {
    const Json* level = json.find("level");
    if (level == nullptr) return false;
    event.kind = Event::Kind::level;
    event.pin = pin->text;
    event.level = level->number == 0 ? 0 : 1;
  } else if (const Json* ir = json.find("ir")) {
    return readFrame(*ir, event);
  } else if (const Json* edges = json.find("edges")) {
    event.kind = Event::Kind::edges;
    for (const double us : edges->numbers) event.durations.push_back(us > 65535 ? 65535 : static_cast<uint16_t>(us));
  } else if (const Json* msg = json.find("msg")) {
    return readMessage(*msg, event);
  } else if (const Json* character = json.find("char")) {
    event.kind = Event::Kind::character;
    event.character = character->text.empty() ? '\0' : character->text[0];
  } else if (const Json* status = json.find("line")) {
    event.kind = Event::Kind::line;
    event.line = status->text;
  } else if (const Json* sensor = json.find("sensor")) {
    const Json* value = json.find("value");
    if (value == nullptr) return false;
    event.kind = Event::Kind::sensor;
    event.sensor = sensor->text;
    event.value = static_cast<int32_t>(std::floor(value->number * 1000 + 0.5));
  } else {
    return readWireEvent(json, event);
  }
  return true;
}

// "s1", or "r1.1", "r1.2" … for the contacts of a selector
static bool findPin(const vestibule::Image& image, const std::string& name, uint8_t& input, uint8_t& bit) {
  for (input = 0; input < image.inputCount; input++) {
    const vestibule::Input& table = image.inputs[input];
    if (table.kind != vestibule::InputKind::selector) {
      bit = 0;
      if (name == table.id) return true;
      continue;
    }
    for (bit = 0; bit < table.pins; bit++) {
      if (name == std::string(table.id) + "." + std::to_string(bit + 1)) return true;
    }
  }
  return false;
}

bool findLink(const vestibule::Image& image, const std::string& name, uint8_t& link) {
  for (link = 0; link < image.linkCount; link++) {
    if (name.empty() || name == image.links[link].id) return true;
  }
  return false;
}

bool applyInstant(vestibule::Device& device, uint32_t now, const std::vector<Event>& events, std::string& unknown) {
  const vestibule::Image& image = *device.image;
  uint8_t link = 0;
  for (const Event& event : events) {
    if (findLink(image, event.of, link)) continue;
    unknown = "link \"" + event.of + "\"";
    return false;
  }
  vestibule::begin(device, now);
  for (const Event& event : events) {
    if (event.kind == Event::Kind::power) vestibule::power(device, event.on);
    if (event.kind == Event::Kind::link && findLink(image, event.of, link)) vestibule::link(device, link, event.on);
    if (event.kind == Event::Kind::clock) vestibule::clock(device, event.weekMs);
  }
  for (const Event& event : events) {
    if (event.kind != Event::Kind::level) continue;
    uint8_t input;
    uint8_t bit;
    if (!findPin(image, event.pin, input, bit)) {
      unknown = "input \"" + event.pin + "\"";
      return false;
    }
    vestibule::level(device, input, bit, event.level);
  }
  for (const Event& event : events) {
    if (event.kind == Event::Kind::frame) vestibule::frame(device, event.frame, event.repeat);
    if (event.kind == Event::Kind::edges) vestibule::edges(device, event.durations.data(), event.durations.size());
  }
  for (const Event& event : events) {
    if (event.kind == Event::Kind::message && findLink(image, event.of, link))
      vestibule::message(device, link, event.topic.c_str(), event.payload.data(), event.payload.size(), event.retain);
    if (event.kind == Event::Kind::character) vestibule::character(device, event.character);
    if (event.kind == Event::Kind::line) vestibule::line(device, event.line.data(), event.line.size());
  }
  for (const Event& event : events) {
    if (event.kind != Event::Kind::sensor) continue;
    // a sensor of another controller passes by
    for (uint8_t i = 0; i < image.sensorCount; i++) {
      if (event.sensor == image.sensors[i].id) {
        vestibule::sensor(device, i, event.value);
        break;
      }
    }
  }
  vestibule::finish(device);
  return true;
}

std::string quoted(const std::string& text) {
  std::string out = "\"";
  for (const char c : text) {
    if (c == '"' || c == '\\') {
      out += '\\';
      out += c;
    } else if (static_cast<unsigned char>(c) < 0x20) {
      char code[7];
      std::snprintf(code, sizeof code, "\\u%04x", static_cast<unsigned>(c));
      out += code;
    } else {
      out += c;
    }
  }
  return out + '"';
}

}  // namespace host
