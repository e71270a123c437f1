#include "transports.h"

#include "engine.h"

namespace vestibule {
namespace wires {

namespace {

/// What did not fit is said again no more often than that.
constexpr uint32_t SAY_AGAIN_MS = 5000;
/// A network that is not joined by then is as good as none, until the runtime asks again.
#ifndef VESTIBULE_JOIN_MS
#define VESTIBULE_JOIN_MS 20000
#endif
constexpr uint32_t LONGEST_JOIN_MS = VESTIBULE_JOIN_MS;

const LinkTable& tableOf(const Line& line) { return line.all->engine->tables->links[line.link]; }

bool speaksMqtt(const LinkTable& table) {
  return table.transport == Transport::own || table.transport == Transport::mqtt;
}

void isUp(Line& line, bool up) {
  line.isUp = up;
  opens(*line.all->engine, line.link, up);
}

void says(Line& line, Words text) { line.all->ground->note(line.all->ground->context, line.link, text); }

Line& lineAt(void* context, uint8_t link) {
#ifdef VESTIBULE_ONE_CONTROLLER
  (void)context;
  return memory::lines[link];
#else
  return static_cast<Transports*>(context)->lines[link];
#endif
}

void connects(void* context, uint8_t link) {
  Line& line = lineAt(context, link);
  line.wanted = true;
  line.wantedAt = line.all->now;
}
void subscribes(void* context, uint8_t link, const char* topic, uint8_t qos) {
  mqtt::subscribe(lineAt(context, link).mqtt, topic, qos);
}
void publishes(void* context, uint8_t link, const char* topic, const char* payload, uint8_t qos, bool retain) {
  mqtt::publish(lineAt(context, link).mqtt, topic, payload, qos, retain);
}
void notes(void* context, uint8_t link, Words text) { says(lineAt(context, link), text); }
#ifdef VESTIBULE_ONLY_MQTT
constexpr decltype(Far::ask) asksFor = nullptr;
constexpr decltype(Far::reply) replies = nullptr;
#else
void asksFor(void* context, uint8_t link, const char* method, const char* path, const char* body) {
  Line& line = lineAt(context, link);
  const LinkTable& table = tableOf(line);
  // a request that does not fit has no answer
  if (!http::ask(line.http, line.address, line.port, table.tls, method, path, table.headers, body, line.all->now))
    line.answer.arrives(&line, 0, "", 0, true);
}
void replies(void* context, uint8_t link, uint16_t status) { hook::reply(lineAt(context, link).hook, status); }
#endif

#ifndef VESTIBULE_ONE_CONTROLLER
const Far FAR = {nullptr, connects, subscribes, publishes, asksFor, replies, notes};
#endif

void heard(void* context, const char* topic, const char* payload, size_t length, bool retain, bool again) {
#ifdef VESTIBULE_ONE_CONTROLLER
  (void)context;
  Line& line = memory::lines[0];
#else
  Line& line = *static_cast<Line*>(context);
#endif
  hears(*line.all->engine, line.link, topic, payload, length, retain || again);
}

#ifndef VESTIBULE_ONLY_MQTT
// A body that was cut could say anything.
void answered(void* context, uint16_t status, const char* body, size_t length, bool whole) {
  Line& line = *static_cast<Line*>(context);
  answers(*line.all->engine, line.all->now, line.link, whole ? status : 0, body, length);
}

void asked(void* context, const char* method, const char* path, const char* key, const char* once) {
  Line& line = *static_cast<Line*>(context);
  called(*line.all->engine, line.all->now, line.link, method, path, key, once);
}

#endif

bool isRefusal(mqtt::End end) {
  return end == mqtt::End::wrongClient || end == mqtt::End::wrongLogin || end == mqtt::End::notAllowed ||
         end == mqtt::End::refused;
}

void passMqtt(Line& line, uint32_t now) {
  const LinkTable& table = tableOf(line);
  if (line.wanted) {
    line.wanted = false;
    mqtt::connect(line.mqtt, line.login, line.address, line.port, table.tls, now);
    // what was asked for is answered, be it at once
    if (line.mqtt.state == mqtt::State::down) {
      says(line, mqtt::wordOf(line.mqtt.end));
      return isUp(line, false);
    }
  }
  const mqtt::State before = line.mqtt.state;
  if (before == mqtt::State::down) return;
  mqtt::pass(line.mqtt, now);
  if (line.mqtt.state == mqtt::State::down) {
    line.isRefused = isRefusal(line.mqtt.end);
    says(line, mqtt::wordOf(line.mqtt.end));
    return isUp(line, false);
  }
  if (line.mqtt.state == mqtt::State::up && !line.isUp) {
    line.isRefused = false;
    isUp(line, true);
  }
  // what did not fit is said again as a whole, once there is room
  if (line.mqtt.lost && line.mqtt.outUsed == 0 && now - line.saidAgainAt > SAY_AGAIN_MS) {
    line.mqtt.lost = false;
    line.saidAgainAt = now;
    reportAll(*line.all->engine->device);
  }
}

#ifndef VESTIBULE_ONLY_MQTT
void passHook(Line& line, uint32_t now) {
  if (line.wanted) {
    line.wanted = false;
    const bool can = line.listener.listen(line.listener.context, tableOf(line).ownPort);
    if (!can) says(line, WORDS("the port for calls is taken"));
    isUp(line, can);
  }
  if (!line.isUp) return;
  hook::pass(line.hook, now);
  if (!line.all->ground->joined(line.all->ground->context)) isUp(line, false);
}

#endif

void passLine(Line& line, uint32_t now) {
  const bool joined = line.all->ground->joined(line.all->ground->context);
  if (line.wanted && !joined) {
    if (now - line.wantedAt <= LONGEST_JOIN_MS) return;
    line.wanted = false;
    says(line, WORDS("the network cannot be joined"));
    return isUp(line, false);
  }
#ifdef VESTIBULE_ONLY_MQTT
  passMqtt(line, now);
#else
  const LinkTable& table = tableOf(line);
  if (speaksMqtt(table)) return passMqtt(line, now);
  if (asks(table)) http::pass(line.http, now);
  if (table.transport == Transport::hook) passHook(line, now);
#endif
}

}  // namespace

#ifdef VESTIBULE_ONE_CONTROLLER
constexpr Far memory::FAR = {nullptr, connects, subscribes, publishes, asksFor, replies, notes};
Transports memory::transports;

void prepare(Transports& transports, uint8_t count, const Buffers* buffers) {
  transports.now = 0;
  for (uint8_t i = 0; i < count; i++) {
    Line& line = transports.lines[i];
    line = Line();
    line.link = i;
    mqtt::prepare(line.mqtt, buffers[i].in, buffers[i].inSize, buffers[i].out, buffers[i].outSize);
  }
}
#else
const Far& prepare(Transports& transports, const Ground& ground, Line* lines, uint8_t count, const Socket* sockets,
                   const Buffers* buffers) {
  transports.ground = &ground;
  transports.lines = lines;
  transports.engine = nullptr;
  transports.far = FAR;
  transports.far.context = &transports;
  transports.now = 0;
  for (uint8_t i = 0; i < count; i++) {
    Line& line = lines[i];
    const Buffers& own = buffers[i];
    line = Line();
    line.all = &transports;
    line.link = i;
    line.socket = sockets[i];
    line.hearing = {&line, heard};
    mqtt::prepare(line.mqtt, line.socket, line.hearing, own.in, own.inSize, own.out, own.outSize);
#ifndef VESTIBULE_ONLY_MQTT
    line.answer = {&line, answered};
    line.call = {&line, asked};
    http::prepare(line.http, line.socket, line.answer, reinterpret_cast<char*>(own.out), own.outSize,
                  reinterpret_cast<char*>(own.in), own.inSize);
#endif
  }
  return transports.far;
}
#endif

#ifndef VESTIBULE_ONLY_MQTT
void listens(Transports& transports, uint8_t link, const Listener& listener, const Socket& caller) {
  Line& line = transports.lines[link];
  line.listener = listener;
  line.caller = caller;
  hook::prepare(line.hook, line.listener, line.caller, line.call);
}
#endif

void begin(Transports& transports, Engine& engine) {
#ifndef VESTIBULE_ONE_CONTROLLER
  transports.engine = &engine;
#endif
  for (uint8_t i = 0; i < engine.tables->linkCount; i++) {
    Line& line = transports.lines[i];
    const LinkTable& table = tableOf(line);
    const bool own = table.transport == Transport::own;
    line.address = table.address;
    line.port = table.port;
    // the will says what the status would (MQTT 3.1.1, 3.1.2.5)
    line.login = {table.client,
                  table.user,
                  table.password,
                  own ? engine.tables->prefix : WORDS(""),
                  own                            ? WORDS("status")
                  : table.statusTopic == nullptr ? WORDS("")
                                                 : table.statusTopic,
                  own ? WORDS("offline") : table.offline,
                  own || table.statusRetain,
                  table.keepAliveS};
  }
}

#ifndef VESTIBULE_ONLY_MQTT
void goesTo(Transports& transports, uint8_t link, const Place& place) {
  Line& line = transports.lines[link];
  if (place.address[0] != '\0') line.address = place.address;
  if (place.port != 0) line.port = place.port;
  if (place.user[0] != '\0') line.login.user = place.user;
  if (place.password[0] == '\0') return;
  line.login.password = place.password;
  transports.engine->links[link].key = place.password;
}

void endAll(Transports& transports) {
  for (uint8_t i = 0; i < transports.engine->tables->linkCount; i++) {
    Line& line = transports.lines[i];
    mqtt::drop(line.mqtt);
    line.wanted = false;
    isUp(line, false);
  }
}
#endif

void pass(Transports& transports, uint32_t nowMs) {
  transports.now = nowMs;
  for (uint8_t i = 0; i < transports.engine->tables->linkCount; i++) passLine(transports.lines[i], nowMs);
  tick(*transports.engine, nowMs);
}

void goOn(Transports& transports, uint32_t nowMs) {
  transports.now = nowMs;
  pump(*transports.engine, nowMs);
  for (uint8_t i = 0; i < transports.engine->tables->linkCount; i++) {
    Line& line = transports.lines[i];
    if (line.mqtt.state == mqtt::State::up) mqtt::flush(line.mqtt, nowMs);
  }
}

}  // namespace wires

#ifdef VESTIBULE_ONE_CONTROLLER
constexpr mqtt::Hearing mqtt::memory::HEARING = {nullptr, wires::heard};
#endif

}  // namespace vestibule
