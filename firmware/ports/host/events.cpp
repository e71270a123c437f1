#include "events.h"

#include <cstdio>

#include "json.h"

namespace host {

bool readEvent(const std::string& line, Event& event) {
  Json json;
  if (!readJson(line, json) || json.kind != Json::Kind::object) return false;
  const Json* t = json.find("t");
  if (t == nullptr || t->kind != Json::Kind::number || t->number < 0 || t->number > 4294967295.0) return false;
  event.t = static_cast<uint32_t>(t->number);
  if (const Json* power = json.find("power")) {
    event.kind = Event::Kind::power;
    event.on = power->text == "on";
  } else if (const Json* link = json.find("link")) {
    event.kind = Event::Kind::link;
    event.on = link->text == "up";
  } else if (const Json* pin = json.find("pin")) {
    const Json* level = json.find("level");
    if (level == nullptr) return false;
    event.kind = Event::Kind::level;
    event.pin = pin->text;
    event.level = level->number == 0 ? 0 : 1;
  } else if (const Json* msg = json.find("msg")) {
    const Json* topic = msg->find("topic");
    const Json* payload = msg->find("payload");
    const Json* retain = msg->find("retain");
    if (topic == nullptr || payload == nullptr || retain == nullptr) return false;
    event.kind = Event::Kind::message;
    event.topic = topic->text;
    event.payload = payload->text;
    event.retain = retain->boolean;
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

bool applyInstant(vestibule::Device& device, uint32_t now, const std::vector<Event>& events, std::string& unknownPin) {
  const vestibule::Image& image = *device.image;
  vestibule::begin(device, now);
  for (const Event& event : events) {
    if (event.kind == Event::Kind::power) vestibule::power(device, event.on);
    if (event.kind == Event::Kind::link) vestibule::link(device, event.on);
  }
  for (const Event& event : events) {
    if (event.kind != Event::Kind::level) continue;
    uint8_t input;
    uint8_t bit;
    if (!findPin(image, event.pin, input, bit)) {
      unknownPin = event.pin;
      return false;
    }
    vestibule::level(device, input, bit, event.level);
  }
  for (const Event& event : events) {
    if (event.kind == Event::Kind::message) vestibule::message(device, event.topic.c_str(), event.payload.data(), event.payload.size(), event.retain);
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
