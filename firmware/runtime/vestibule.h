// Vestibule controller runtime: runs the tables of an image exactly as docs/behaviour.md says.
//
// C++11 without exceptions, RTTI, heap, recursion or floating point; nothing of the standard library but <stdint.h> and
// <stddef.h>. The caller owns all memory (image.h declares it); the port does all I/O. Each file here mirrors the one of
// the same name in core/device (or core/infrared), and a differential test holds the two equal, byte for byte.
//
// Use: begin(device, now) works off what was due before; then tell it what happens at this instant, in this order:
// power, link, clock; levels; frames; messages and characters; sensors; then finish(device) does what is due now, commits
// the outputs and sends the reports.
//
// Build options (each says what it buys):
//   VESTIBULE_FLASH_TABLES  tables and words stay in flash on a board whose flash is no part of its memory (AVR): saves the
//                           RAM of all tables, costs a copy of a row at each use.
//   VESTIBULE_ONE_CONTROLLER  tables, memory and port lie where memory.h defines them, and are not looked up through pointers:
//                           saves flash and time on a small board that is built with -flto.
//   VESTIBULE_NO_LINK       no network: leaves out topics, messages and reports, about 5 KB of flash.
#ifndef VESTIBULE_H
#define VESTIBULE_H

#include <stddef.h>
#include <stdint.h>

#ifdef VESTIBULE_FLASH_TABLES
#include <avr/pgmspace.h>
#define VESTIBULE_FLASH PROGMEM
#define WORDS(text) PSTR(text)
#else
#define VESTIBULE_FLASH
#define WORDS(text) (text)
#endif

namespace vestibule {

/// Text of the tables and of the runtime: in flash where VESTIBULE_FLASH_TABLES is set, so read it by charAt only.
using Words = const char*;

#ifdef VESTIBULE_FLASH_TABLES
template <typename T>
inline T row(const T* at) {
  T copy;
  if (sizeof copy == 1) {
    const uint8_t byte = pgm_read_byte(at);
    __builtin_memcpy(&copy, &byte, 1);
  } else if (sizeof copy == 2) {
    const uint16_t word = pgm_read_word(at);
    __builtin_memcpy(&copy, &word, 2);
  } else if (sizeof copy == 4) {
    const uint32_t words = pgm_read_dword(at);
    __builtin_memcpy(&copy, &words, 4);
  } else {
    memcpy_P(&copy, at, sizeof copy);
  }
  return copy;
}
inline char charAt(Words words) { return static_cast<char>(pgm_read_byte(words)); }
#else
template <typename T>
inline const T& row(const T* at) {
  return *at;
}
inline char charAt(Words words) { return *words; }
#endif

enum class InputKind : uint8_t { momentary, rocker, selector, contact };
enum class ChannelKind : uint8_t { switched, stepped, pulsed, paired, feed };
enum class Pull : uint8_t { none, up, down };
enum class Settle : uint8_t { settle, eager };
enum class Gesture : uint8_t { press, release, hold, flip, follow, select };
enum class Action : uint8_t { off, on, toggle, up, down, follow, level, pulse, open, close, a, b, stop, autoOn, manual, autoToggle, pair, reset, report };
enum class Target : uint8_t { channel, group, controller };
enum class PowerUp : uint8_t { off, on, last, wall, service };
enum class Hand : uint8_t { yield, leave, ignore };
enum class Protocol : uint8_t { nec, necExt, rc5, rc6, sirc12, sirc15, sirc20, unknown, necRepeat };
enum class Carries : uint8_t { channel, sensor, mode };
enum class Source : uint8_t { power, wall, remote, app, hub, nearby, serial, service, limit, rule, schedule, watch, contact };
enum class LinkState : uint8_t { down, joining, up };

/// Pins of expanders and shift registers are numbered from here on, in the order of the controller's parts.
constexpr uint8_t FIRST_EXPANDER_PIN = 100;
/// A role without a pin.
constexpr uint8_t NO_PIN = 255;
/// A code of a selector that stands for no level.
constexpr uint8_t NO_LEVEL = 255;
/// A channel without a position contact.
constexpr uint8_t NO_INPUT = 255;
/// An input whose contacts have not settled since power-up.
constexpr uint8_t UNKNOWN = 255;
/// A door's position that has not settled, in a status line.
constexpr uint8_t NOT_KNOWN = 255;
/// A frame without a toggle bit.
constexpr uint8_t NO_TOGGLE = 2;

// ---- the tables that image.h fills ----

struct Input {
  Words id;
  uint8_t firstPin;   ///< in Image::inputPins
  uint8_t pins;       ///< 1, or the bits of a selector
  uint8_t firstCode;  ///< in Image::selectorCodes
  InputKind kind;
  Pull pull;
  bool analogue;
  uint8_t closedLevel;
  Settle settle;
  uint16_t settleMs;
  uint16_t holdMs;  ///< 0: nothing is bound to a hold
};

struct Channel {
  Words id;
  Words topic;
  ChannelKind kind;
  uint8_t firstOutput;   ///< in Image::outputPins
  uint8_t contacts;
  uint8_t firstPattern;  ///< in Image::patterns; one a level, from 0
  uint8_t top;           ///< highest level
  uint16_t gapMs;
  bool wrap;
  uint8_t onLevel;
  bool activeLow;
  uint32_t maxOnMs;   ///< limit; length of a pulse; running time; 0: none
  uint32_t minOffMs;  ///< least time off; lockout of a pulse; 0: none
  PowerUp powerUp;
  uint32_t waitMs;
  bool otherwiseLast;  ///< second choice of power-up `service`: last instead of off
  bool takesSet;
  bool reports;
  bool essential;
  uint8_t contact;  ///< input of the position contact, or NO_INPUT
  bool contactMeansClosed;
  bool ruled;  ///< a rule or a schedule works it
};

/// What a source does, and to what.
struct Deed {
  Action action;
  uint8_t level;
  Target on;
  uint8_t index;
};

struct Group {
  uint8_t firstMember;  ///< in Image::members
  uint8_t members;
};

struct Binding {
  uint8_t input;
  Gesture gesture;
  Deed deed;
};

struct Key {
  Protocol protocol;
  uint16_t address;  ///< unknown: upper half of the hash
  uint16_t command;  ///< unknown: lower half
  uint16_t everyMs;  ///< 0: once a press
  Deed deed;
};

struct Character {
  char character;
  bool nearby;
  Deed deed;
};

struct Point {
  uint8_t vp;
  Carries carries;
  uint8_t index;
  int16_t min;
  int16_t max;
  bool reports;
};

/// Values of sensors are thousandths.
struct Sensor {
  Words id;
  int32_t deadBand;
  uint32_t staleMs;
};

struct Rule {
  uint8_t sensor;
  bool above;
  int32_t on;
  int32_t off;
  uint32_t dwellMs;
  bool staleOff;
  uint8_t channel;
  uint8_t level;  ///< 0: the last
};

struct Schedule {
  uint8_t days;  ///< bit 0 is Monday
  uint16_t minute;
  uint8_t channel;
  Action action;
  uint8_t level;
};

struct Image {
  Words prefix;  ///< "vestibule/<site>/<controller>/"
  Words watchTopic;
  Words hash;
  bool link;
  bool outageService;
  uint16_t staggerMs;
  uint32_t storeMs;
  uint16_t minReportMs;
  uint32_t heartbeatMs;
  uint32_t sensorMs;
  uint32_t seed;
  bool autoStart;
  Hand hand;
  uint32_t yieldMs;
  bool watches;
  uint32_t watchMs;
  uint32_t graceMs;
  uint32_t steadyMs;
  bool serial;
  uint32_t baud;
  uint32_t statusMs;
  const uint8_t* inputPins;
  const uint8_t* selectorCodes;
  const uint8_t* outputPins;
  const uint8_t* patterns;
  const uint8_t* members;
  const Input* inputs;
  uint8_t inputCount;
  const Channel* channels;
  uint8_t channelCount;
  const Group* groups;
  uint8_t groupCount;
  const Binding* bindings;
  uint8_t bindingCount;
  const Key* keys;
  uint8_t keyCount;
  const Character* characters;
  uint8_t characterCount;
  const Point* points;
  uint8_t pointCount;
  const Sensor* sensors;
  uint8_t sensorCount;
  const Rule* rules;
  uint8_t ruleCount;
  const Schedule* schedules;
  uint8_t scheduleCount;
};

// ---- memory, owned by the caller ----

/// A timer's place. A small board has fewer than 254 of them, and counts its memory in bytes.
#ifdef VESTIBULE_FLASH_TABLES
using Place = uint8_t;
#else
using Place = uint16_t;
#endif
constexpr Place NO_PLACE = static_cast<Place>(~0u);
constexpr Place NOT_ARMED = static_cast<Place>(NO_PLACE - 1);

/// Those that are armed form a chain in the order in which they are due; of one instant, the one that was set first comes first.
struct Timer {
  uint32_t at;
  Place next;  ///< the one that is due after this one; NO_PLACE: none; or NOT_ARMED
};

struct InputState {
  uint8_t code;     ///< closed contacts now, as bits
  uint8_t settled;  ///< the code that has settled, or UNKNOWN
  bool holdFired;
};

struct ChannelState {
#ifndef VESTIBULE_NO_LINK
  uint32_t seq;
  Source source;
#endif
  uint8_t level;      ///< 0: off
  uint8_t lastLevel;  ///< the last one that was not 0
  uint8_t closed;     ///< closed contacts, as bits
  uint8_t waitingLevel;  ///< a turn-on that waits for minOffMs; 0: none
  Source waitingSource;
  uint8_t staggeredLevel;
  Source staggeredSource;
  bool reportDue;
  bool isAuto;  ///< only of a channel that is ruled
  uint8_t storedLevel;
  uint8_t storedLast;
  bool storedAuto;
};

struct SensorState {
  int32_t value;
  int32_t reported;
  bool fresh;
  bool everReported;
  bool due;
};

/// What a rule wants.
enum class Wish : uint8_t { undecided, off, on };

struct Frame {
  Protocol protocol;
  uint16_t address;
  uint16_t command;
  uint8_t toggle;
};

constexpr size_t INPUT_TIMERS = 2;
constexpr size_t RULE_TIMERS = 1;
#ifdef VESTIBULE_NO_LINK
// without those that only a network needs, which come last of each kind of owner (Slot)
constexpr size_t CHANNEL_TIMERS = 6;
constexpr size_t SENSOR_TIMERS = 1;
constexpr size_t OWN_TIMERS = 6;
#else
constexpr size_t CHANNEL_TIMERS = 7;
constexpr size_t SENSOR_TIMERS = 2;
constexpr size_t OWN_TIMERS = 11;
#endif
constexpr size_t timerCount(size_t inputs, size_t channels, size_t sensors, size_t rules) {
  return inputs * INPUT_TIMERS + channels * CHANNEL_TIMERS + sensors * SENSOR_TIMERS + rules * RULE_TIMERS + OWN_TIMERS;
}

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
  /// A status line is ready: take it by lineCharacter, at once or bit by bit. No other is made before it has been taken.
  void (*line)(void* context);
  /// A character for the main board of a pair.
  void (*say)(void* context, char character);
  /// Offer to be paired, or forget the credentials.
  void (*credentials)(void* context, bool reset);
};

/// A status line that is being taken: what it says is fixed, its characters are worked out one by one, so that a small board needs
/// no room for them and is never held up by them.
enum class LinePart : uint8_t { none, head, id, value, unknown, sum };
struct StatusLine {
  uint16_t unknown;  ///< characters that nobody knew
  volatile LinePart part;  ///< a port may take characters in an interrupt
  uint8_t channel;
  uint8_t offset;  ///< within the part
  uint8_t sum;
};

#ifdef VESTIBULE_ONE_CONTROLLER
namespace memory {

extern const Image TABLES;
extern const Port PORT;  ///< the port defines it
extern Timer timers[];
extern InputState inputs[];
extern ChannelState channels[];
extern SensorState sensors[];
extern Wish wishes[];
extern bool heldBack[];
extern uint8_t said[];

/// A pointer that takes no memory, since it only ever points there.
template <typename T, T* THERE>
struct Fixed {
  operator T*() const { return THERE; }
  T* operator->() const { return THERE; }
};

}  // namespace memory
#define VESTIBULE_POINTER(Type, there) memory::Fixed<Type, there>
#else
#define VESTIBULE_POINTER(Type, there) Type*
#endif

struct Device {
  VESTIBULE_POINTER(const Image, &memory::TABLES) image;
  VESTIBULE_POINTER(const Port, &memory::PORT) port;
  VESTIBULE_POINTER(Timer, memory::timers) timers;
  VESTIBULE_POINTER(InputState, memory::inputs) inputs;
  VESTIBULE_POINTER(ChannelState, memory::channels) channels;
  VESTIBULE_POINTER(SensorState, memory::sensors) sensors;
  VESTIBULE_POINTER(Wish, memory::wishes) wishes;
  VESTIBULE_POINTER(bool, memory::heldBack) heldBack;
  VESTIBULE_POINTER(uint8_t, memory::said) said;  ///< what the status line says of each channel, or NOT_KNOWN
  StatusLine line;
  uint32_t now;
  Place earliest;  ///< the timer that is due first
  uint32_t random;
  uint32_t staggerNext;
  uint32_t clockAt;
  uint32_t clockWeekMs;
  Frame lastFrame;
  uint16_t unknownCharacters;
  uint8_t attempts;
  LinkState link;
#ifdef VESTIBULE_NO_LINK
  static constexpr bool mirrors = false;
#else
  bool mirrors;      ///< the coprocessor of a pair; set between prepare and power
#endif
  bool lineRefused;  ///< of a mirror: the last line counted for nothing, and that has been said
  bool powered;
  bool announce;
  bool hasStored;
  bool heard;  ///< the hub's heartbeat; of a mirror, the main board's lines
  bool local;
  bool modeDue;
  bool statusDue;
  bool clockKnown;
};

// ---- the face ----

/// Ties memory, tables and port together; contacts rest open, nothing is stored. Call once.
void prepare(Device& device);
/// Works off every deadline before `now`.
void begin(Device& device, uint32_t now);
void power(Device& device, bool on);
void link(Device& device, bool up);
/// ms since Monday 00:00, local time.
void clock(Device& device, uint32_t weekMs);
/// An electrical level at a contact of an input.
void level(Device& device, uint8_t input, uint8_t bit, uint8_t level);
/// A decoded frame; `repeat`: the remote says that the key is held.
void frame(Device& device, const Frame& frame, bool repeat);
/// Durations in µs, mark and space in turn, a mark first; 65535 stands for all longer ones.
void edges(Device& device, const uint16_t* durations, size_t count);
/// Decodes the frame that begins at `from` and moves `from` behind it; false: nothing was decoded there. For a port to which
/// decoding (some ms on an 8-bit core) is too long for one instant: it decodes first, then tells the time and the frame.
bool nextFrame(const uint16_t* durations, size_t count, size_t& from, Frame& frame);
void message(Device& device, const char* topic, const char* payload, size_t length, bool retain);
void character(Device& device, char character);
void sensor(Device& device, uint8_t sensor, int32_t thousandths);
/// A status line of the main board, without its end, for the coprocessor of a pair: that runs the same tables, drives nothing and
/// stands for the main board on the network (Device::mirrors). Messages become characters (Port::say), lines become reports.
void line(Device& device, const char* text, size_t length);
/// The next character of the status line, '\n' at its end; false: it has been taken.
bool lineCharacter(Device& device, char& character);
void finish(Device& device);
/// When something is due by itself; false: nothing is.
bool nextDeadline(Device& device, uint32_t& at);
/// Is the channel part of the stored record; and is its level restored, or only its last level kept?
bool isStored(const Image& image, uint8_t channel);
bool levelIsStored(const Image& image, uint8_t channel);
Words nameOf(Source source);

// ---- the stored record: two slots, so that a cut at any byte leaves the old or the new ----

/// The store of a board, byte by byte.
struct Memory {
  void* context;
  uint8_t (*read)(void* context, size_t at);
  void (*write)(void* context, size_t at, uint8_t value);
};
constexpr size_t recordBytes(size_t channels) { return 2 + channels * 3 + 3; }
/// Writes what is stored into the slot that does not hold the newest whole record: its last byte first, to say that it is not
/// whole, then all from the first to the last. The port must keep that order.
void saveRecord(const Device& device, const Memory& memory);
/// Reads the newest whole record; false: there is none. Call between prepare and power.
bool loadRecord(Device& device, const Memory& memory);

}  // namespace vestibule

#endif
