// The tables of a controller: what image.h fills, and how they are read where they stay in flash.
#ifndef VESTIBULE_TABLES_H
#define VESTIBULE_TABLES_H

// what has no room, or nobody to hear it, says fewer words: no keys that nobody has taught, no bounces
#if defined(VESTIBULE_NO_LINK) || defined(VESTIBULE_MODEM)
#define VESTIBULE_FEW_WORDS
#endif

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
enum class Action : uint8_t {
  off,
  on,
  toggle,
  up,
  down,
  follow,
  level,
  pulse,
  open,
  close,
  a,
  b,
  stop,
  autoOn,
  manual,
  autoToggle,
  pair,
  reset,
  report
};
enum class Target : uint8_t { channel, group, controller };
enum class PowerUp : uint8_t { off, on, last, wall, service, timetable };
enum class Hand : uint8_t { yield, leave, ignore };
/// Each protocol with its name in traces; `unknown` is a frame of none of them, `necRepeat` says only that a key is
/// held.
#define VESTIBULE_PROTOCOLS(PROTOCOL) \
  PROTOCOL(nec, "nec")                \
  PROTOCOL(necExt, "nec-ext")         \
  PROTOCOL(rc5, "rc5")                \
  PROTOCOL(rc6, "rc6")                \
  PROTOCOL(sirc12, "sirc12")          \
  PROTOCOL(sirc15, "sirc15")          \
  PROTOCOL(sirc20, "sirc20")          \
  PROTOCOL(unknown, "unknown")        \
  PROTOCOL(necRepeat, "nec-repeat")
#define VESTIBULE_ENUMERATOR(id, name) id,
enum class Protocol : uint8_t { VESTIBULE_PROTOCOLS(VESTIBULE_ENUMERATOR) };
#undef VESTIBULE_ENUMERATOR
enum class Carries : uint8_t { channel, sensor, mode, group };
enum class Source : uint8_t {
  power,
  wall,
  remote,
  app,
  hub,
  nearby,
  serial,
  service,
  limit,
  rule,
  schedule,
  watch,
  contact
};
enum class LinkState : uint8_t { down, joining, up };

/// Pins of expanders and shift registers are numbered from here on, in the order of the controller's parts.
constexpr uint8_t FIRST_EXPANDER_PIN = 100;
/// Relays that are told over the serial line are numbered from here on, in the order of their frames.
constexpr uint8_t FIRST_TOLD_PIN = 90;
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
  uint8_t firstOutput;  ///< in Image::outputPins
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
  bool otherwiseLast;  ///< second choice of a power-up that waits: last instead of off
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
  Words id;
  bool takesSet;
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
#ifndef VESTIBULE_NO_LINK
  uint8_t link;  ///< in Image::links
#endif
};
#ifdef VESTIBULE_NO_LINK
#define VESTIBULE_OF_LINK(link)
#else
#define VESTIBULE_OF_LINK(link) , link
#endif

/// A link: to the broker of the house, or to a service by a wire.
struct Link {
  Words id;
  bool outageService;  ///< who wins after an outage of this link
  bool own;            ///< it carries what the controller says of itself, and what a hub sets
  bool logs;
};
/// Most links that a controller keeps up.
constexpr uint8_t MOST_LINKS = 3;

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
  bool catchUp;  ///< made up for when the clock becomes known or jumps ahead
};

struct Image {
  Words prefix;  ///< "vestibule/<site>/<controller>/"
  Words watchTopic;
  Words hash;
  bool link;
  bool own;         ///< some link is the house's: there the controller speaks of itself
  bool modeTopic;   ///< auto and manual are worked on mode/set, and reported on mode/state
  uint8_t carried;  ///< what any point carries, a bit of each Carries
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
  const uint8_t*
      gates;  ///< of each input: while that one is open, its level as a selector is 0; NO_INPUT; none: no gates
  const uint8_t* outputPins;
  const uint8_t* patterns;
  const uint8_t* members;
  const uint8_t* memberLevels;  ///< what `on` gives to each member, NO_LEVEL: on; none: on for all
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
  const Link* links;
  uint8_t linkCount;
  const Point* points;
  uint8_t pointCount;
  const Sensor* sensors;
  uint8_t sensorCount;
  const Rule* rules;
  uint8_t ruleCount;
  const Schedule* schedules;
  uint8_t scheduleCount;
};

/// Does any point carry it? What none does is not compiled in, where the tables are known.
inline bool anyCarries(const Image& image, Carries what) {
  return (image.carried >> static_cast<uint8_t>(what) & 1) != 0;
}

}  // namespace vestibule

#endif
