// Vestibule controller runtime: runs the tables of an image exactly as docs/behaviour.md says.
//
// C++11 without exceptions, RTTI, heap, recursion or floating point; nothing of the standard library but <stdint.h> and
// <stddef.h>. The caller owns all memory (image.h declares it); the port does all I/O. Each file here mirrors the one
// of the same name in core/device (or core/infrared), and a differential test holds the two equal, byte for byte.
//
// Use: begin(device, now) works off what was due before; then tell it what happens at this instant, in this order:
// power, link, clock; levels; frames; messages and characters; sensors; then finish(device) does what is due now,
// commits the outputs and sends the reports.
//
// Build options (each says what it buys):
//   VESTIBULE_FLASH_TABLES  tables and words stay in flash on a board whose flash is no part of its memory (AVR): saves
//   the
//                           RAM of all tables, costs a copy of a row at each use.
//   VESTIBULE_ONE_CONTROLLER  tables, memory and port lie where memory.h defines them, and are not looked up through
//   pointers:
//                           saves flash and time on a small board that is built with -flto.
//   VESTIBULE_NO_LINK       no network: leaves out topics, messages and reports, about 5 KB of flash.
#ifndef VESTIBULE_H
#define VESTIBULE_H

#include "kinds.h"
#include "tables.h"

namespace vestibule {

// ---- memory, owned by the caller ----

/// A timer's place. A small board has fewer than 254 of them, and counts its memory in bytes.
#ifdef VESTIBULE_FLASH_TABLES
using Place = uint8_t;
#else
using Place = uint16_t;
#endif
constexpr Place NO_PLACE = static_cast<Place>(~0u);
constexpr Place NOT_ARMED = static_cast<Place>(NO_PLACE - 1);

/// Those that are armed form a chain in the order in which they are due; of one instant, the one that was set first
/// comes first.
struct Timer {
  uint32_t at;
  Place next;  ///< the one that is due after this one; NO_PLACE: none; or NOT_ARMED
};

struct InputState {
  uint8_t code;     ///< closed contacts now, as bits
  uint8_t settled;  ///< the code that has settled, or UNKNOWN
  bool pressed;     ///< closed since power-up: only then does its opening mean anything
  bool holdFired;
#ifndef VESTIBULE_FEW_WORDS
  uint8_t bounced;     ///< longest bounce since power-up that was said, ms; 255: that or longer
  uint32_t movedFrom;  ///< when its contact began to move, ms
  uint32_t movedAt;    ///< and moved last, ms
#endif
};

struct ChannelState {
#ifndef VESTIBULE_NO_LINK
  uint32_t seq;
  Source source;
#endif
  uint8_t level;         ///< 0: off
  uint8_t lastLevel;     ///< the last one that was not 0
  uint8_t closed;        ///< closed contacts, as bits
  uint8_t lastClosed;    ///< contacts that were closed last: dead time stands between different directions only
  uint8_t waitingLevel;  ///< a turn-on that waits for minOffMs; 0: none
  Source waitingSource;
  uint8_t staggeredLevel;  ///< waits for its turn at power-up; 0: for none
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
  bool heard;  ///< since power-up
  bool everReported;
  bool due;
};

/// How a link stands.
struct LinkRecord {
  LinkState state;
  uint8_t attempts;
  bool announce;  ///< it has come up in this instant, and is owed the full state
  bool wasUp;     ///< since power-up: the next time that it comes up ends an outage
  uint8_t told;   ///< steps of the full state that it has been told
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
constexpr size_t LINK_TIMERS = 0;
constexpr size_t OWN_TIMERS = 7;
#else
constexpr size_t CHANNEL_TIMERS = 7;
constexpr size_t SENSOR_TIMERS = 2;
constexpr size_t LINK_TIMERS = 2;
constexpr size_t OWN_TIMERS = 10;
#endif
constexpr size_t timerCount(size_t inputs, size_t channels, size_t sensors, size_t rules, size_t links) {
  return inputs * INPUT_TIMERS + channels * CHANNEL_TIMERS + sensors * SENSOR_TIMERS + rules * RULE_TIMERS +
         links * LINK_TIMERS + OWN_TIMERS;
}

/// What the runtime asks of the board. Topics and payloads live only during the call.
struct Port {
  void* context;
  /// A contact closes or opens; `level` is what its pin must be driven to.
  void (*output)(void* context, uint8_t channel, uint8_t contact, bool closed, bool level);
  /// `link`: in Image::links.
  void (*publish)(void* context, uint8_t link, const char* topic, const char* payload, bool retain);
  void (*subscribe)(void* context, uint8_t link, const char* topic);
  void (*join)(void* context, uint8_t link);
  /// The stored levels of each channel are in its state; written whole.
  void (*store)(void* context);
  /// A status line is ready: take it by lineCharacter, at once or bit by bit. No other is made before it has been
  /// taken.
  void (*line)(void* context);
  /// A character for the main board of a pair.
  void (*say)(void* context, char character);
  /// Offer to be paired, or forget the credentials.
  void (*credentials)(void* context, bool reset);
  /// Does one more turn of reports fit (a channel with its points, a reading, a subscription)? Without it everything
  /// always fits; a port with little memory says no, and is asked again at its next finish.
  bool (*hasRoom)(void* context, uint8_t link);
};

/// A status line that is being taken: what it says is fixed, its characters are worked out one by one, so that a small
/// board needs no room for them and is never held up by them.
enum class LinePart : uint8_t { none, head, id, value, unknown, sum };
struct StatusLine {
  uint16_t unknown;        ///< characters that nobody knew
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
#ifndef VESTIBULE_NO_LINK
extern LinkRecord links[];
#endif
extern uint8_t said[];

/// A pointer that takes no memory, since it only ever points there.
template <typename T, T* THERE>
struct Fixed {
  operator T*() const { return THERE; }
  T* operator->() const { return THERE; }
};

}  // namespace memory
#define VESTIBULE_POINTER(Type, there) ::vestibule::memory::Fixed<Type, there>
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
#ifndef VESTIBULE_NO_LINK
  VESTIBULE_POINTER(LinkRecord, memory::links) links;
#endif
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
#ifdef VESTIBULE_NO_LINK
  static constexpr bool mirrors = false;
#else
  bool mirrors;  ///< the coprocessor of a pair; set between prepare and power
#endif
  bool lineRefused;  ///< of a mirror: the last line counted for nothing, and that has been said
  bool powered;
  bool turnsDue;  ///< some channel waits for its turn
  bool hasStored;
  bool heard;  ///< the hub's heartbeat; of a mirror, the main board's lines
  bool local;
  bool modeDue;
  bool statusDue;
  bool clockKnown;
};

#ifdef VESTIBULE_ONE_CONTROLLER
namespace memory {
extern Device device;
}
#endif

// ---- the face ----

/// Ties memory, tables and port together; contacts rest open, nothing is stored. Call once.
void prepare(Device& device);
/// Works off every deadline before `now`.
void begin(Device& device, uint32_t now);
void power(Device& device, bool on);
/// `index`: in Image::links.
void link(Device& device, uint8_t index, bool up);
/// ms since Monday 00:00, local time.
void clock(Device& device, uint32_t weekMs);
/// An electrical level at a contact of an input.
void level(Device& device, uint8_t input, uint8_t bit, uint8_t level);
/// A decoded frame; `repeat`: the remote says that the key is held.
void frame(Device& device, const Frame& frame, bool repeat);
/// Durations in µs, mark and space in turn, a mark first; 65535 stands for all longer ones.
void edges(Device& device, const uint16_t* durations, size_t count);
/// Decodes the frame that begins at `from` and moves `from` behind it; false: nothing was decoded there. For a port to
/// which decoding (some ms on an 8-bit core) is too long for one instant: it decodes first, then tells the time and the
/// frame.
bool nextFrame(const uint16_t* durations, size_t count, size_t& from, Frame& frame);
void message(Device& device, uint8_t link, const char* topic, const char* payload, size_t length, bool retain);
void character(Device& device, char character);
void sensor(Device& device, uint8_t sensor, int32_t thousandths);
/// A status line of the main board, without its end, for the coprocessor of a pair: that runs the same tables, drives
/// nothing and stands for the main board on the network (Device::mirrors). Messages become characters (Port::say),
/// lines become reports.
void line(Device& device, const char* text, size_t length);
/// The next character of the status line, '\n' at its end; false: it has been taken.
bool lineCharacter(Device& device, char& character);
void finish(Device& device);
/// Everything is reported to all links that are up: for a port that could not send something.
void reportAll(Device& device);
/// When something is due by itself; false: nothing is.
bool nextDeadline(Device& device, uint32_t& at);
/// Is the channel part of the stored record; and is its level restored, or only its last level kept?
bool isStored(const Image& image, uint8_t channel);
bool levelIsStored(const Image& image, uint8_t channel);
Words nameOf(Source source);

// ---- the board's own light ----

/// How the link stands, as a light shows it.
enum class Light : uint8_t { off, joining, up, refused, pairing };
/// Whether the light is lit at this instant, ms since the start.
bool isLit(Light light, uint32_t nowMs);

// ---- the stored record: two slots, so that a cut at any byte leaves the old or the new ----

/// The store of a board, byte by byte.
struct Memory {
  void* context;
  uint8_t (*read)(void* context, size_t at);
  void (*write)(void* context, size_t at, uint8_t value);
};
/// CRC-16/CCITT-FALSE, a byte further; it begins with 0xffff.
uint16_t checkSum(uint16_t sum, uint8_t byte);
constexpr size_t recordBytes(size_t channels) { return 2 + channels * 3 + 3; }
/// Writes what is stored into the slot that does not hold the newest whole record: its last byte first, to say that it
/// is not whole, then all from the first to the last. The port must keep that order.
void saveRecord(const Device& device, const Memory& memory);
/// Reads the newest whole record; false: there is none. Call between prepare and power.
bool loadRecord(Device& device, const Memory& memory);

}  // namespace vestibule

#endif
