// The wire engine: between the runtime's own topics and what stands at the other end of each link. A wire is a table
// (wires_image.h declares it); the engine does no I/O and mirrors core/wires, which a differential test holds it to.
//
// Use: the runtime's port hands publish, subscribe and join to `says`, `subscribes` and `joins`. What comes over a wire
// is told by `opens`, `hears`, `answers` and `called`, which tell the runtime at once; `tick` does what is due, `pump`
// begins the next request of each link. All at an instant that the caller gives, between the runtime's begin and
// finish.
//
// Build option VESTIBULE_ONLY_MQTT: no requests and no calls, for a board without the room for them.
#ifndef VESTIBULE_WIRES_H
#define VESTIBULE_WIRES_H

#include "vestibule.h"

namespace vestibule {
namespace wires {

enum class Transport : uint8_t { own, mqtt, http, hook };
enum class Form : uint8_t { number, words, range };

/// What a value looks like on the wire, with the point's own range.
struct Coding {
  Form form;
  int16_t min;
  int16_t max;
  int16_t least;  ///< range: on the wire
  int16_t most;
  Words off;  ///< words
  Words on;
};

/// What the controller says under one of its topics.
struct SayRow {
  Words from;    ///< behind the controller's prefix: "vp/7/state"
  Words to;      ///< topic, or path
  Words before;  ///< of the value
  Words after;
  Coding coding;
  uint8_t qos;
  bool retain;
  uint32_t everyMs;  ///< least time between two values; one that comes too early waits. 0: none
};

/// What the wire says, for one of the controller's points.
struct HearRow {
  Words from;     ///< topic; path that is asked; path of a call up to its value
  Words pointer;  ///< JSON Pointer (RFC 6901), or null: the whole
  Words to;       ///< "vp/7"
  Coding coding;
  int16_t min;
  int16_t max;
  bool wish;     ///< else what the service holds
  bool lasting;  ///< keeps a state, so that what is remembered may set it
};

struct Sign;
/// A signature as 64 hexadecimal digits and a nought.
using MacOf = void (*)(const Sign& sign, const char* topic, const char* payload, size_t length, char* digits);

/// What messages are signed over: before, topic, between, payload, after. Only what signs names the function.
struct Sign {
  Words key;
  Words before;
  Words between;  ///< null: the topic is not signed
  Words after;
  MacOf mac;
};
void macOf(const Sign& sign, const char* topic, const char* payload, size_t length, char* digits);

/// Lies in memory on every board: there are few, and each is looked at all the time.
struct LinkTable {
  Transport transport;
  Words id;
  Words address;
  uint16_t port;  ///< of the server
  bool tls;
  Words client;
  Words user;
  Words password;
  uint16_t keepAliveS;
  Words statusTopic;  ///< null: none is said
  Words online;
  Words offline;
  bool statusRetain;
  Words log;           ///< topic; null: none
  Words countTopic;    ///< null: wishes bear no number
  Words countPointer;  ///< null: the whole, and behind a blank of a wish
  const SayRow* says;
  uint8_t sayCount;
  const HearRow* hears;
  uint8_t hearCount;
  Words headers;  ///< lines of a request's head, each with its end
  Words method;   ///< of a write; null: nothing is written
  bool readAll;
  uint32_t readMs;  ///< 0: nothing is asked
  Words key;        ///< of a call
  bool keyInPath;
  uint16_t ownPort;  ///< of a hook: where the controller is called
  const Sign* sign;  ///< null: nothing is signed
};

struct Tables {
  Words prefix;
  const LinkTable* links;
  uint8_t linkCount;
  bool looksInside;  ///< something stands in a document
  bool recodes;      ///< some value is other on the wire than here
};

/// A value that is longer is none.
constexpr size_t LONGEST_VALUE = 24;
#ifdef VESTIBULE_ONE_CONTROLLER
constexpr size_t LONGEST_TOLD_TOPIC = VESTIBULE_LONGEST_TOPIC;
#else
constexpr size_t LONGEST_TOLD_TOPIC = 256;  ///< what the runtime is told under
#endif
constexpr size_t LONGEST_WIRE_TOPIC = 256;
constexpr size_t LONGEST_WIRE_PAYLOAD = 384;
constexpr size_t SIGN_DIGITS = 64;
constexpr uint8_t NO_ROW = 255;
constexpr uint8_t REMEMBERED_CALLS = 4;

struct Value {
  bool isSet;
  char text[LONGEST_VALUE + 1];
};

/// Of each row that is said.
struct SayState {
  Value pending;  ///< what waits to go out
  bool isHeld;    ///< nothing goes out before freeAt
  uint32_t freeAt;
};

enum class OnItsWay : uint8_t { nothing, write, read };

struct LinkState {
  bool isUp;
  bool hasDue;
  uint32_t dueAt;
  // wishes with numbers
  bool countKnown;
  uint32_t countLast;
  SayState* rows;  ///< of each say
#ifndef VESTIBULE_ONLY_MQTT
  // requests
  bool active;
  bool firstRound;
  bool waiting;
  OnItsWay onItsWay;
  uint8_t row;      ///< that is on its way
  uint8_t reading;  ///< the next to be read in this round, or NO_ROW
  Value sent;       ///< that is being written
  Value* known;     ///< of each hear, what was read or written last
  // calls
  Words key;  ///< that a call must bear
  uint8_t wrong;
  bool isClosed;
  uint32_t closedUntil;
  uint8_t doneCount;
  uint32_t done[REMEMBERED_CALLS];
#endif
};

/// What the engine asks of the transports. Texts live only during the call.
struct Far {
  void* context;
  void (*connect)(void* context, uint8_t link);
  void (*hear)(void* context, uint8_t link, const char* topic, uint8_t qos);
  void (*say)(void* context, uint8_t link, const char* topic, const char* payload, uint8_t qos, bool retain);
  void (*ask)(void* context, uint8_t link, const char* method, const char* path, const char* body);
  void (*reply)(void* context, uint8_t link, uint16_t status);
  void (*note)(void* context, uint8_t link, Words text);
};

#ifdef VESTIBULE_ONE_CONTROLLER
namespace memory {
extern const Tables TABLES;
extern const Far FAR;
extern LinkState links[];
/// Room for what is being said, as long as these tables need: one thing is said at a time.
extern char topic[];
extern char payload[];
extern const size_t TOPIC_SIZE;
extern const size_t PAYLOAD_SIZE;
}  // namespace memory
#endif

struct Engine {
  VESTIBULE_POINTER(const Tables, &memory::TABLES) tables;
  VESTIBULE_POINTER(const Far, &memory::FAR) far;
  VESTIBULE_POINTER(Device, &vestibule::memory::device) device;
  VESTIBULE_POINTER(LinkState, memory::links) links;
};

#ifdef VESTIBULE_ONE_CONTROLLER
/// Tables, transports and controller are where they are.
void prepare(Engine& engine, SayState* rows);
#else
/// Ties tables, memory and transports together: `links` of each link, `rows` of all that is said, `known` of all that
/// is read by requests.
void prepare(Engine& engine, const Tables& tables, const Far& far, Device& device, LinkState* links, SayState* rows,
             Value* known);
#endif

void joins(Engine& engine, uint32_t now, uint8_t link);
void subscribes(Engine& engine, uint8_t link, const char* topic);
void says(Engine& engine, uint32_t now, uint8_t link, const char* topic, const char* payload, bool retain);

/// A connection stands, or is gone or could not be had.
void opens(Engine& engine, uint8_t link, bool open);
/// `stale`: retained or sent again (MQTT 3.1.1, 3.3.1.1 and 3.3.1.3), so it may be old.
void hears(Engine& engine, uint8_t link, const char* topic, const char* payload, size_t length, bool stale);
/// Of the one request that is on its way; status 0: there was no answer.
void answers(Engine& engine, uint32_t now, uint8_t link, uint16_t status, const char* body, size_t length);
/// `key` and `once` are of the head; empty: none.
void called(Engine& engine, uint32_t now, uint8_t link, const char* method, const char* path, const char* key,
            const char* once);
void tick(Engine& engine, uint32_t now);
void pump(Engine& engine, uint32_t now);
bool nextDeadline(const Engine& engine, uint32_t& at);

}  // namespace wires
}  // namespace vestibule

#endif
