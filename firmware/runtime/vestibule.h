// Vestibule controller runtime: runs the tables of an image exactly as docs/behaviour.md says.
//
// C++11 without exceptions, RTTI, heap, recursion or floating point; nothing of the standard library but <stdint.h> and
// <stddef.h>. The caller owns all memory (image.h declares it); the port does all I/O. Each file here mirrors the one of
// the same name in core/device, and a differential test holds the two equal, byte for byte.
//
// Use: begin(device, now) works off what was due before; then tell it what happens at this instant, in this order:
// power, link, levels, messages; then finish(device) does what is due now, commits the outputs and sends the reports.
#ifndef VESTIBULE_H
#define VESTIBULE_H

#include <stddef.h>
#include <stdint.h>

namespace vestibule {

enum class InputKind : uint8_t { momentary, rocker };
enum class Pull : uint8_t { none, up, down };
enum class Settle : uint8_t { settle, eager };
enum class Gesture : uint8_t { press, release, hold, flip, follow };
enum class Action : uint8_t { off, on, toggle, follow };
enum class PowerUp : uint8_t { off, on, last, wall, service };
enum class Source : uint8_t { power, wall, app, hub, service, limit };
enum class LinkState : uint8_t { down, joining, up };
enum class Contact : uint8_t { unknown, open, closed };

/// A role without a pin.
constexpr uint8_t NO_PIN = 255;

// ---- the tables that image.h fills ----

struct Input {
  const char* id;
  uint8_t gpio;
  InputKind kind;
  Pull pull;
  bool analogue;
  uint8_t closedLevel;
  Settle settle;
  uint16_t settleMs;
  uint16_t holdMs;  ///< 0: nothing is bound to a hold
};

struct Channel {
  const char* id;
  const char* topic;
  uint8_t gpio;
  bool activeLow;
  uint32_t maxOnMs;   ///< 0: no limit
  uint32_t minOffMs;  ///< 0: none
  PowerUp powerUp;
  uint32_t waitMs;
  bool otherwiseLast;  ///< second choice of power-up `service`: last instead of off
  bool takesSet;
  bool reports;
};

struct Binding {
  uint8_t input;
  Gesture gesture;
  Action action;
  uint8_t channel;
};

struct Point {
  uint8_t vp;
  uint8_t channel;
  int16_t off;
  int16_t on;
  bool reports;
};

struct Image {
  const char* prefix;  ///< "vestibule/<site>/<controller>/"
  const char* hash;
  bool link;
  bool outageService;
  uint16_t staggerMs;
  uint32_t storeMs;
  uint16_t minReportMs;
  uint32_t heartbeatMs;
  uint32_t seed;
  const Input* inputs;
  uint8_t inputCount;
  const Channel* channels;
  uint8_t channelCount;
  const Binding* bindings;
  uint8_t bindingCount;
  const Point* points;
  uint8_t pointCount;
};

// ---- memory, owned by the caller ----

struct Timer {
  uint32_t at;
  uint32_t order;
  bool armed;
};

struct InputState {
  uint8_t level;
  Contact contact;
  bool holdFired;
};

struct ChannelState {
  uint32_t seq;
  bool on;
  bool committed;
  Source source;
  bool waiting;  ///< a turn-on waits for minOffMs
  Source waitingSource;
  Source staggeredBy;
  bool reportDue;
  bool stored;
};

constexpr size_t INPUT_TIMERS = 2;
constexpr size_t CHANNEL_TIMERS = 5;
constexpr size_t OWN_TIMERS = 4;
constexpr size_t timerCount(size_t inputs, size_t channels) { return inputs * INPUT_TIMERS + channels * CHANNEL_TIMERS + OWN_TIMERS; }

/// What the runtime asks of the board. Topics and payloads live only during the call.
struct Port {
  void* context;
  void (*output)(void* context, uint8_t channel, bool on, bool level);
  void (*publish)(void* context, const char* topic, const char* payload, bool retain);
  void (*subscribe)(void* context, const char* topic);
  void (*join)(void* context);
  /// The stored bit of each channel is in its state; written whole.
  void (*store)(void* context);
};

struct Device {
  const Image* image;
  const Port* port;
  Timer* timers;
  InputState* inputs;
  ChannelState* channels;
  bool* heldBack;
  uint32_t now;
  uint32_t armings;
  uint32_t random;
  uint32_t staggerNext;
  uint8_t attempts;
  LinkState link;
  bool powered;
  bool announce;
  bool hasStored;
};

// ---- the face ----

/// Ties memory, tables and port together; inputs rest open, nothing is stored. Call once.
void prepare(Device& device);
/// Works off every deadline before `now`.
void begin(Device& device, uint32_t now);
void power(Device& device, bool on);
void link(Device& device, bool up);
/// An electrical level at an input's pin.
void level(Device& device, uint8_t input, uint8_t level);
void message(Device& device, const char* topic, const char* payload, size_t length, bool retain);
void finish(Device& device);
/// ms until something is due by itself; false: nothing is.
bool nextDeadline(const Device& device, uint32_t& at);
/// Is the channel part of the stored record?
bool isStored(const Image& image, uint8_t channel);
const char* nameOf(Source source);

}  // namespace vestibule

#endif
