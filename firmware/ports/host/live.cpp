// Live mode: the controller on a real broker (MQTT 3.1.1 by libmosquitto), in real time. Lines on standard input are
// trace events whose t is ignored; what the controller does is printed as in trace mode.
#include <mosquitto.h>
#include <poll.h>
#include <time.h>
#include <unistd.h>

#include <cstdio>
#include <cstdlib>
#include <string>
#include <vector>

#include "controller.h"
#include "events.h"
#include "output.h"
#include "reach.h"

namespace host {

namespace {

constexpr int KEEP_ALIVE_S = 15;
constexpr int QOS = 1;

struct Broker {
  std::string address = "127.0.0.1";
  int port = 1883;
  mosquitto* client = nullptr;
  bool wanted = false;     // the runtime asked to join
  bool connected = false;  // as the callbacks say
  bool changed = false;    // the runtime has not been told yet
};

Broker broker;
Reach reach;
vestibule::Device* running = nullptr;
std::vector<Event> arrived;

uint32_t nowMs() {
  static timespec start = {0, 0};
  timespec now;
  clock_gettime(CLOCK_MONOTONIC, &now);
  if (start.tv_sec == 0) start = now;
  return static_cast<uint32_t>((now.tv_sec - start.tv_sec) * 1000L + (now.tv_nsec - start.tv_nsec) / 1000000L);
}

const vestibule::Port PORT = {
    nullptr,
    [](void*, uint8_t channel, uint8_t contact, bool closed, bool) { writeOut(*running, channel, contact, closed); },
    [](void*, const char* topic, const char* payload, bool retain) {
      writePublish(*running, topic, payload, retain);
      const std::string text(payload);
      mosquitto_publish(broker.client, nullptr, topic, static_cast<int>(text.size()), text.data(), QOS, retain);
    },
    [](void*, const char* topic) {
      writeSubscribe(*running, topic);
      mosquitto_subscribe(broker.client, nullptr, topic, QOS);
    },
    [](void*) {
      writeJoin(*running);
      broker.wanted = true;
    },
    [](void*) { writeStore(*running); },
    [](void*) { writeLine(*running); },
    [](void*, char character) { writeSay(*running, character); },
    [](void*, bool reset) { writeCredentials(*running, reset); },
};

Event linkEvent(bool up) {
  Event event;
  event.kind = Event::Kind::link;
  event.on = up;
  return event;
}

bool setUpClient() {
  mosquitto_lib_init();
  broker.client = mosquitto_new(clientId(), true, nullptr);
  if (broker.client == nullptr) return false;
  const char* user = std::getenv("VESTIBULE_BROKER_USER");
  const char* password = std::getenv("VESTIBULE_BROKER_PASSWORD");
  if (user != nullptr) mosquitto_username_pw_set(broker.client, user, password);
  const std::string status = std::string(running->image->prefix) + "status";
  // MQTT 3.1.1, 3.1.2.5: the broker publishes the will when the connection ends without DISCONNECT.
  mosquitto_will_set(broker.client, status.c_str(), 7, "offline", QOS, true);
  mosquitto_connect_callback_set(broker.client, [](mosquitto*, void*, int code) {
    broker.connected = code == 0;
    broker.changed = true;
  });
  mosquitto_disconnect_callback_set(broker.client, [](mosquitto*, void*, int) {
    broker.connected = false;
    broker.changed = true;
  });
  mosquitto_message_callback_set(broker.client, [](mosquitto*, void*, const mosquitto_message* message) {
    Event event;
    event.kind = Event::Kind::message;
    event.topic = message->topic;
    event.payload.assign(static_cast<const char*>(message->payload), static_cast<size_t>(message->payloadlen));
    event.retain = message->retain;
    arrived.push_back(event);
  });
  return true;
}

bool readStandardInput(std::string& buffer, std::vector<Event>& events) {
  char chunk[4096];
  const ssize_t size = read(STDIN_FILENO, chunk, sizeof chunk);
  if (size <= 0) return false;
  buffer.append(chunk, static_cast<size_t>(size));
  for (size_t end = buffer.find('\n'); end != std::string::npos; end = buffer.find('\n')) {
    Event event;
    if (readEvent(buffer.substr(0, end), event)) events.push_back(event);
    buffer.erase(0, end + 1);
  }
  return true;
}

}  // namespace

int runLive(const char* address, int port, bool mirrors) {
  broker.address = address;
  broker.port = port;
  running = &controller(PORT);
  running->mirrors = mirrors;
  if (!setUpClient()) {
    std::fprintf(stderr, "the MQTT client cannot be set up\n");
    return 2;
  }
  std::setvbuf(stdout, nullptr, _IOLBF, 0);
  Event power;
  power.kind = Event::Kind::power;
  power.on = true;
  std::vector<Event> events = {power};
  std::string buffer;
  std::string unknownPin;
  for (bool open = true; open;) {
    if (!applyInstant(*running, nowMs(), events, unknownPin))
      std::fprintf(stderr, "there is no input \"%s\"\n", unknownPin.c_str());
    events.clear();
    if (broker.wanted) {
      broker.wanted = false;
      reach.ask(broker.address.c_str(), broker.port, nowMs());
    }
    const Reach::Answer answer = reach.isAsking() ? reach.answer(nowMs()) : Reach::Answer::waiting;
    if (answer == Reach::Answer::refused ||
        (answer == Reach::Answer::reached &&
         mosquitto_connect(broker.client, broker.address.c_str(), broker.port, KEEP_ALIVE_S) != MOSQ_ERR_SUCCESS)) {
      events.push_back(linkEvent(false));
    }
    if (mosquitto_loop(broker.client, 0, 1) == MOSQ_ERR_CONN_LOST && !broker.changed &&
        running->link == vestibule::LinkState::up) {
      broker.connected = false;
      broker.changed = true;
    }
    if (broker.changed) {
      broker.changed = false;
      events.push_back(linkEvent(broker.connected));
    }
    events.insert(events.end(), arrived.begin(), arrived.end());
    arrived.clear();
    pollfd waits[2] = {{STDIN_FILENO, POLLIN, 0}, {mosquitto_socket(broker.client), POLLIN, 0}};
    poll(waits, waits[1].fd < 0 ? 1 : 2, events.empty() ? 1 : 0);
    if (waits[0].revents != 0) open = readStandardInput(buffer, events);
  }
  mosquitto_destroy(broker.client);
  mosquitto_lib_cleanup();
  return 0;
}

}  // namespace host
