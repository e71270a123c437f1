// A trace played on a core that has nothing but a library of C and files: reads in.jsonl, writes out.jsonl, byte for
// byte what the host port prints. A first line of "wires" plays it through the wires, "mirror" as a coprocessor; a line
// with a single ~ ends a trace and begins another on a new controller.
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#include "json.h"
#include "memory.h"
#include "wires_memory.h"

namespace {

using namespace vestibule;
using bare::Json;

constexpr size_t MOST_EVENTS = 512;
constexpr size_t POOL = 1u << 20;

FILE* out = nullptr;
Device* device = nullptr;
wires::Engine* engine = nullptr;
bool throughWires = false;
bool mirrors = false;

char pool[POOL];
size_t used = 0;
Json events[MOST_EVENTS];
size_t eventCount = 0;
char topic[512];
char text[2048];

// ---- what is written ----

void quoted(const char* words) {
  fputc('"', out);
  for (; *words != '\0'; words++) {
    const unsigned char c = static_cast<unsigned char>(*words);
    if (c == '"' || c == '\\') {
      fputc('\\', out);
      fputc(c, out);
    } else if (c < 0x20) {
      fprintf(out, "\\u%04x", c);
    } else {
      fputc(c, out);
    }
  }
  fputc('"', out);
}

void head(const char* key) { fprintf(out, "{\"t\":%lu,\"%s\":", static_cast<unsigned long>(device->now), key); }
void tail(uint8_t link) {
  if (link != 0) {
    fputs(",\"of\":", out);
    quoted(device->image->links[link].id);
  }
  fputs("}\n", out);
}
const char* yes(bool is) { return is ? "true" : "false"; }

void writeOut(void*, uint8_t channel, uint8_t contact, bool closed, bool) {
  const Channel& table = device->image->channels[channel];
  char name[64];
  if (isNumbered(table.kind)) {
    snprintf(name, sizeof name, "%s.%d", table.id, contact + 1);
  } else {
    snprintf(name, sizeof name, "%s", table.id);
  }
  head("out");
  quoted(name);
  fprintf(out, ",\"level\":%d}\n", closed ? 1 : 0);
}

void writePublish(void*, uint8_t link, const char* where, const char* payload, bool retain) {
  if (throughWires) return wires::says(*engine, device->now, link, where, payload, retain);
  head("pub");
  fputs("{\"topic\":", out);
  quoted(where);
  fputs(",\"payload\":", out);
  quoted(payload);
  fprintf(out, ",\"retain\":%s}", yes(retain));
  tail(link);
}

void writeSubscribe(void*, uint8_t link, const char* where) {
  if (throughWires) return wires::subscribes(*engine, link, where);
  head("sub");
  quoted(where);
  tail(link);
}

void writeJoin(void*, uint8_t link) {
  if (throughWires) return wires::joins(*engine, device->now, link);
  head("link");
  fputs("\"joining\"", out);
  tail(link);
}

void writeStore(void*) {
  head("store");
  fputc('"', out);
  const char* between = "";
  for (uint8_t i = 0; i < device->image->channelCount; i++) {
    const Channel& table = device->image->channels[i];
    const ChannelState& channel = device->channels[i];
    if (isStored(*device->image, i)) {
      fprintf(out, "%s%s=%d", between, table.id, channel.storedLevel);
      if (keepsLastLevel(table.kind)) fprintf(out, ",%d", channel.storedLast);
      between = " ";
    }
    if (table.ruled) {
      fprintf(out, "%s%s%s", between, table.id, channel.storedAuto ? ":auto" : ":manual");
      between = " ";
    }
  }
  fputs("\"}\n", out);
}

void writeLine(void*) {
  size_t length = 0;
  char character;
  while (lineCharacter(*device, character)) {
    if (character != '\n' && length + 1 < sizeof text) text[length++] = character;
  }
  text[length] = '\0';
  head("line");
  quoted(text);
  fputs("}\n", out);
}

void writeSay(void*, char character) {
  const char one[2] = {character, '\0'};
  head("char");
  quoted(one);
  fputs("}\n", out);
}

void writeCredentials(void*, bool reset) {
  head("do");
  fprintf(out, "\"%s\"}\n", reset ? "reset" : "pair");
}

const Port PORT = {nullptr,    writeOut,  writePublish, writeSubscribe,   writeJoin,
                   writeStore, writeLine, writeSay,     writeCredentials, nullptr};

void wireHead(uint8_t link) {
  fprintf(out, "{\"t\":%lu,\"of\":", static_cast<unsigned long>(device->now));
  quoted(device->image->links[link].id);
}

const wires::Far FAR = {
    nullptr,
    [](void*, uint8_t link) {
      wireHead(link);
      fputs(",\"connect\":true}\n", out);
    },
    [](void*, uint8_t link, const char* where, uint8_t qos) {
      wireHead(link);
      fputs(",\"hear\":", out);
      quoted(where);
      fprintf(out, ",\"qos\":%d}\n", qos);
    },
    [](void*, uint8_t link, const char* where, const char* payload, uint8_t qos, bool retain) {
      wireHead(link);
      fputs(",\"say\":{\"topic\":", out);
      quoted(where);
      fputs(",\"payload\":", out);
      quoted(payload);
      fprintf(out, ",\"qos\":%d,\"retain\":%s}}\n", qos, yes(retain));
    },
    [](void*, uint8_t link, const char* method, const char* path, const char* body) {
      wireHead(link);
      fputs(",\"ask\":{\"method\":", out);
      quoted(method);
      fputs(",\"path\":", out);
      quoted(path);
      fputs(",\"body\":", out);
      quoted(body);
      fputs("}}\n", out);
    },
    [](void*, uint8_t link, uint16_t status) {
      wireHead(link);
      fprintf(out, ",\"reply\":%d}\n", status);
    },
    [](void*, uint8_t link, const char* words) {
      wireHead(link);
      fputs(",\"note\":", out);
      quoted(words);
      fputs("}\n", out);
    },
};

// ---- what happens ----

bool has(Json event, const char* key) { return bare::member(event, key).at != nullptr; }

uint8_t linkOf(Json event) {
  bare::textOf(bare::member(event, "of"), text, sizeof text);
  for (uint8_t i = 0; i < device->image->linkCount && text[0] != '\0'; i++) {
    if (strcmp(text, device->image->links[i].id) == 0) return i;
  }
  return 0;
}

// ms since Monday 00:00; 0001-01-01 was a Monday in the proleptic Gregorian calendar
uint32_t weekMs(const char* local) {
  int year = 0, month = 1, day = 1, hour = 0, minute = 0, second = 0;
  sscanf(local, "%d-%d-%dT%d:%d:%d", &year, &month, &day, &hour, &minute, &second);
  static const int BEFORE[] = {0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334};
  const int past = year - 1;
  const bool leap = (year % 4 == 0 && year % 100 != 0) || year % 400 == 0;
  const long days =
      past * 365L + past / 4 - past / 100 + past / 400 + BEFORE[month - 1] + (leap && month > 2 ? 1 : 0) + day - 1;
  return static_cast<uint32_t>(days % 7) * 86400000u +
         static_cast<uint32_t>((hour * 60 + minute) * 60 + second) * 1000u;
}

void pinMoves(Json event) {
  bare::textOf(bare::member(event, "pin"), text, sizeof text);
  const uint8_t high = bare::numberOf(bare::member(event, "level")) != 0 ? 1 : 0;
  for (uint8_t i = 0; i < device->image->inputCount; i++) {
    const Input& table = device->image->inputs[i];
    if (table.kind != InputKind::selector && strcmp(text, table.id) == 0) return level(*device, i, 0, high);
    for (uint8_t bit = 0; table.kind == InputKind::selector && bit < table.pins; bit++) {
      char name[64];
      snprintf(name, sizeof name, "%s.%d", table.id, bit + 1);
      if (strcmp(text, name) == 0) return level(*device, i, bit, high);
    }
  }
}

void frameComes(Json ir) {
  Frame heard = {Protocol::unknown, 0, 0, NO_TOGGLE};
  bare::textOf(bare::member(ir, "protocol"), text, sizeof text);
#define VESTIBULE_NAMED(id, name) \
  if (strcmp(text, name) == 0) heard.protocol = Protocol::id;
  VESTIBULE_PROTOCOLS(VESTIBULE_NAMED)
#undef VESTIBULE_NAMED
  if (has(ir, "hash")) {
    const uint32_t hash = static_cast<uint32_t>(bare::numberOf(bare::member(ir, "hash")));
    heard.address = static_cast<uint16_t>(hash >> 16);
    heard.command = static_cast<uint16_t>(hash);
  }
  if (has(ir, "address")) heard.address = static_cast<uint16_t>(bare::numberOf(bare::member(ir, "address")));
  if (has(ir, "command")) heard.command = static_cast<uint16_t>(bare::numberOf(bare::member(ir, "command")));
  const Json toggle = bare::member(ir, "toggle");
  if (toggle.at != nullptr && *toggle.at != 'n') heard.toggle = static_cast<uint8_t>(bare::numberOf(toggle));
  frame(*device, heard, bare::isTrue(bare::member(ir, "repeat")));
}

void edgesCome(Json list) {
  static uint16_t durations[4096];
  size_t count = 0;
  double us = 0;
  while (count < 4096 && bare::nextNumber(list, us))
    durations[count++] = us > 65535 ? 65535 : static_cast<uint16_t>(us);
  edges(*device, durations, count);
}

void sensorReads(Json event) {
  bare::textOf(bare::member(event, "sensor"), text, sizeof text);
  const double scaled = bare::numberOf(bare::member(event, "value")) * 1000 + 0.5;
  int32_t thousandths = static_cast<int32_t>(scaled);
  if (scaled < thousandths) thousandths--;
  for (uint8_t i = 0; i < device->image->sensorCount; i++) {
    if (strcmp(text, device->image->sensors[i].id) == 0) return sensor(*device, i, thousandths);
  }
}

void messageComes(Json event, const char* key, const char* stale) {
  const uint8_t of = linkOf(event);
  const Json message = bare::member(event, key);
  bare::textOf(bare::member(message, "topic"), topic, sizeof topic);
  const size_t length = bare::textOf(bare::member(message, "payload"), text, sizeof text);
  const bool flag = bare::isTrue(bare::member(message, stale));
  if (strcmp(key, "heard") == 0) return wires::hears(*engine, of, topic, text, length, flag);
  vestibule::message(*device, of, topic, text, length, flag);
}

void wireComes(Json event, uint32_t now) {
  if (has(event, "open")) return wires::opens(*engine, linkOf(event), bare::isTrue(bare::member(event, "open")));
  if (has(event, "heard")) return messageComes(event, "heard", "stale");
  if (has(event, "answer")) {
    const uint8_t of = linkOf(event);
    const Json answer = bare::member(event, "answer");
    const uint16_t status = static_cast<uint16_t>(bare::numberOf(bare::member(answer, "status")));
    const size_t length = bare::textOf(bare::member(answer, "body"), text, sizeof text);
    return wires::answers(*engine, now, of, status, text, length);
  }
  const uint8_t of = linkOf(event);
  const Json call = bare::member(event, "call");
  char method[16], key[128], once[128];
  bare::textOf(bare::member(call, "method"), method, sizeof method);
  bare::textOf(bare::member(call, "path"), topic, sizeof topic);
  bare::textOf(bare::member(call, "key"), key, sizeof key);
  bare::textOf(bare::member(call, "once"), once, sizeof once);
  wires::called(*engine, now, of, method, topic, key, once);
}

bool isOfWire(Json event) {
  return has(event, "open") || has(event, "heard") || has(event, "answer") || has(event, "call");
}

enum class Stage { first, levels, frames, messages, sensors };

void apply(Json event, Stage stage) {
  switch (stage) {
    case Stage::first:
      if (has(event, "power")) {
        bare::textOf(bare::member(event, "power"), text, sizeof text);
        power(*device, strcmp(text, "on") == 0);
      } else if (has(event, "link")) {
        bare::textOf(bare::member(event, "link"), text, sizeof text);
        const bool up = strcmp(text, "up") == 0;
        link(*device, linkOf(event), up);
      } else if (has(event, "clock")) {
        bare::textOf(bare::member(event, "clock"), text, sizeof text);
        clock(*device, weekMs(text));
      }
      return;
    case Stage::levels:
      if (has(event, "pin")) pinMoves(event);
      return;
    case Stage::frames:
      if (has(event, "ir")) frameComes(bare::member(event, "ir"));
      if (has(event, "edges")) edgesCome(bare::member(event, "edges"));
      return;
    case Stage::messages:
      if (has(event, "msg")) messageComes(event, "msg", "retain");
      if (has(event, "char")) {
        bare::textOf(bare::member(event, "char"), text, sizeof text);
        character(*device, text[0]);
      }
      if (has(event, "line")) line(*device, text, bare::textOf(bare::member(event, "line"), text, sizeof text));
      return;
    case Stage::sensors:
      if (has(event, "sensor")) sensorReads(event);
  }
}

void instant(uint32_t now, bool withEvents) {
  begin(*device, now);
  static const Stage STAGES[] = {Stage::first, Stage::levels, Stage::frames, Stage::messages, Stage::sensors};
  for (const Stage stage : STAGES) {
    for (size_t i = 0; withEvents && i < eventCount; i++) {
      if (!isOfWire(events[i])) apply(events[i], stage);
    }
  }
  finish(*device);
}

void ends(uint32_t now) {
  begin(*device, now);
  wires::tick(*engine, now);
  finish(*device);
  wires::pump(*engine, now);
}

int32_t difference(uint32_t a, uint32_t b) { return static_cast<int32_t>(a - b); }

void runUpTo(uint32_t now) {
  for (;;) {
    uint32_t at = 0;
    uint32_t other = 0;
    const bool due = nextDeadline(*device, at);
    const bool otherDue = wires::nextDeadline(*engine, other);
    if (!due && !otherDue) return;
    const uint32_t next = !due ? other : !otherDue ? at : difference(other, at) < 0 ? other : at;
    if (difference(next, now) >= 0) return;
    instant(next, false);
    ends(next);
  }
}

void play(uint32_t now, bool first) {
  bool hasPower = false;
  for (size_t i = 0; i < eventCount; i++) hasPower = hasPower || has(events[i], "power");
  if (throughWires && !first) runUpTo(now);
  if (first && !hasPower) {
    begin(*device, now);
    power(*device, true);
    if (throughWires) finish(*device);
  }
  for (size_t i = 0; throughWires && i < eventCount; i++) {
    if (!isOfWire(events[i])) continue;
    begin(*device, now);
    wireComes(events[i], now);
    finish(*device);
  }
  instant(now, true);
  if (throughWires) ends(now);
}

void starts() {
  device = &memory::prepared(PORT);
  device->mirrors = mirrors;
  engine = &wires::memory::prepared(FAR, *device);
}

}  // namespace

int main() {
  FILE* in = fopen("in.jsonl", "r");
  out = fopen("out.jsonl", "w");
  if (in == nullptr || out == nullptr) return 2;
  starts();
  uint32_t now = 0;
  bool first = true;
  const auto played = [&]() {
    if (eventCount == 0) return;
    play(now, first);
    first = false;
    eventCount = 0;
    used = 0;
  };
  while (used < POOL - 1 && fgets(pool + used, static_cast<int>(POOL - used), in) != nullptr) {
    char* read = pool + used;
    const size_t length = strcspn(read, "\n");
    read[length] = '\0';
    if (strcmp(read, "wires") == 0 || strcmp(read, "mirror") == 0) {
      throughWires = read[0] == 'w';
      mirrors = read[0] == 'm';
      starts();
      continue;
    }
    if (strcmp(read, "~") == 0) {
      played();
      fputs("~\n", out);
      starts();
      first = true;
      continue;
    }
    if (length == 0) continue;
    const Json event = {read, length};
    const uint32_t t = static_cast<uint32_t>(bare::numberOf(bare::member(event, "t")));
    if (eventCount > 0 && (t != now || eventCount == MOST_EVENTS)) {
      // what is read moves to the front, where what was played stood
      played();
      memmove(pool, read, length + 1);
      read = pool;
    }
    now = t;
    events[eventCount++] = {read, length};
    used = static_cast<size_t>(read - pool) + length + 1;
  }
  played();
  fclose(out);
  return 0;
}
