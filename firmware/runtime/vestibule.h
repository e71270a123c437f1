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

enum class InputKind : uint8_t { momentary, rocker, selector };
enum class Pull : uint8_t { none, up, down };
enum class Settle : uint8_t { settle, eager };
enum class Gesture : uint8_t { press, release, hold, flip, follow, select };
enum class Action : uint8_t { off, on, toggle, up, down, follow, level };
enum class PowerUp : uint8_t { off, on, last, wall, service };
enum class Source : uint8_t { power, wall, app, hub, service, limit };
enum class LinkState : uint8_t { down, joining, up };

/// A role without a pin.
constexpr uint8_t NO_PIN = 255;
/// A code of a selector that stands for no level.
constexpr uint8_t NO_LEVEL = 255;
/// An input whose contacts have not settled since power-up.
constexpr uint8_t UNKNOWN = 255;

// ---- the tables that image.h fills ----

struct Input {
  const char* id;
  uint8_t firstPin;  ///< in Image::inputPins
  uint8_t pins;      ///< 1, or the bits of a selector
  uint8_t firstCode; ///< in Image::selectorCodes
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
  bool stepped;
  uint8_t firstOutput;   ///< in Image::outputPins
  uint8_t contacts;
  uint8_t firstPattern;  ///< in Image::patterns; one a level, from 0
  uint8_t top;           ///< highest level
  uint16_t gapMs;
  bool wrap;
  uint8_t onLevel;
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
  int16_t min;
  int16_t max;
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
  const uint8_t* inputPins;
  const uint8_t* selectorCodes;
  const uint8_t* outputPins;
  const uint8_t* patterns;
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
  uint8_t code;     ///< closed contacts now, as bits
  uint8_t settled;  ///< the code that has settled, or UNKNOWN
  bool holdFired;
};

struct ChannelState {
  uint32_t seq;
  uint8_t level;      ///< 0: off
  uint8_t lastLevel;  ///< the last one that was not 0
  uint8_t closed;     ///< closed contacts, as bits
  Source source;
  uint8_t waitingLevel;  ///< a turn-on that waits for minOffMs; 0: none
  Source waitingSource;
  uint8_t staggeredLevel;
  Source staggeredSource;
  bool reportDue;
  uint8_t storedLevel;
  uint8_t storedLast;
};

constexpr size_t INPUT_TIMERS = 2;
constexpr size_t CHANNEL_TIMERS = 6;
constexpr size_t OWN_TIMERS = 4;
constexpr size_t timerCount(size_t inputs, size_t channels) { return inputs * INPUT_TIMERS + channels * CHANNEL_TIMERS + OWN_TIMERS; }

/// What the runtime asks of the board. Topics and payloads live only during the call.
struct Port {
  void* context;
  /// A contact closes or opens; `level` is what its pin must be driven to.
  void (*output)(void* context, uint8_t channel, uint8_t contact, bool closed, bool level);
  void (*publish)(void* context, const char* topic, const char* payload, bool retain);
  void (*subscribe)(void* context, const char* topic);
  void (*join)(void* context);
  /// The stored levels of each channel are in its state; written whole.
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

/// Ties memory, tables and port together; contacts rest open, nothing is stored. Call once.
void prepare(Device& device);
/// Works off every deadline before `now`.
void begin(Device& device, uint32_t now);
void power(Device& device, bool on);
void link(Device& device, bool up);
/// An electrical level at a contact of an input.
void level(Device& device, uint8_t input, uint8_t bit, uint8_t level);
void message(Device& device, const char* topic, const char* payload, size_t length, bool retain);
void finish(Device& device);
/// ms until something is due by itself; false: nothing is.
bool nextDeadline(const Device& device, uint32_t& at);
/// Is the channel part of the stored record; and is its level restored, or only its last level kept?
bool isStored(const Image& image, uint8_t channel);
bool levelIsStored(const Image& image, uint8_t channel);
const char* nameOf(Source source);

}  // namespace vestibule

#endif
