// What the runtime's files share among themselves; ports include vestibule.h only.
#ifndef VESTIBULE_INSIDE_H
#define VESTIBULE_INSIDE_H

#include "text.h"
#include "vestibule.h"

namespace vestibule {

/// Out of the way of what happens at every press.
#define VESTIBULE_RARE __attribute__((noinline, cold))

// time.ts: signed difference, right across the wrap (RFC 1982)
inline int32_t difference(uint32_t a, uint32_t b) { return static_cast<int32_t>(a - b); }

// slots.ts, timers.ts. Of each owner those that only a network needs come last: without one they have no timer.
enum class Slot : uint8_t {
  settle,
  hold,
  limit,
  rest,
  offGap,
  serviceWait,
  gap,
  yield,
  reportGap,
  stale,
  sensorDue,
  dwell,
  join,
  window,
  turn,
  store,
  grace,
  status,
  pressWindow,
  keyRepeat,
  schedule,
  heartbeat,
  watch,
  steady
};
constexpr uint8_t kindsBetween(Slot first, Slot end) {
  return static_cast<uint8_t>(static_cast<uint8_t>(end) - static_cast<uint8_t>(first));
}
#ifdef VESTIBULE_NO_LINK
static_assert(kindsBetween(Slot::limit, Slot::reportGap) == CHANNEL_TIMERS, "a channel's timers, without a network");
static_assert(kindsBetween(Slot::stale, Slot::sensorDue) == SENSOR_TIMERS, "a sensor's timers, without a network");
static_assert(kindsBetween(Slot::turn, Slot::heartbeat) == OWN_TIMERS, "the controller's timers, without a network");
#else
static_assert(kindsBetween(Slot::limit, Slot::stale) == CHANNEL_TIMERS, "a channel's timers");
static_assert(kindsBetween(Slot::stale, Slot::dwell) == SENSOR_TIMERS, "a sensor's timers");
static_assert(kindsBetween(Slot::join, Slot::turn) == LINK_TIMERS, "a link's timers");
static_assert(kindsBetween(Slot::turn, Slot::steady) + 1 == OWN_TIMERS, "the controller's timers");
#endif
static_assert(kindsBetween(Slot::settle, Slot::limit) == INPUT_TIMERS, "an input's timers");
static_assert(kindsBetween(Slot::dwell, Slot::join) == RULE_TIMERS, "a rule's timers");

/// Inline, since the kind is nearly always known: then it is one multiplication and one sum.
__attribute__((always_inline)) inline size_t slotOf(const Image& image, Slot kind, uint8_t index = 0) {
  if (kind < Slot::limit) return index * INPUT_TIMERS + kindsBetween(Slot::settle, kind);
  size_t first = image.inputCount * INPUT_TIMERS;
  if (kind < Slot::stale) return first + index * CHANNEL_TIMERS + kindsBetween(Slot::limit, kind);
  first += image.channelCount * CHANNEL_TIMERS;
  if (kind < Slot::dwell) return first + index * SENSOR_TIMERS + kindsBetween(Slot::stale, kind);
  first += image.sensorCount * SENSOR_TIMERS;
  if (kind < Slot::join) return first + index * RULE_TIMERS + kindsBetween(Slot::dwell, kind);
  first += image.ruleCount * RULE_TIMERS;
#ifndef VESTIBULE_NO_LINK
  if (kind < Slot::turn) return first + index * LINK_TIMERS + kindsBetween(Slot::join, kind);
  first += image.linkCount * LINK_TIMERS;
#endif
  return first + kindsBetween(Slot::turn, kind);
}
void ownerOf(const Image& image, size_t slot, Slot& kind, uint8_t& index);
void arm(Device& device, size_t slot, uint32_t ms);
/// Whatever the memory held before.
void disarmAll(Device& device);
inline bool isArmed(const Device& device, size_t slot) { return device.timers[slot].next != NOT_ARMED; }
void unlink(Device& device, size_t slot);
inline void cancel(Device& device, size_t slot) {
  if (isArmed(device, slot)) unlink(device, slot);
}
bool nextSlot(const Device& device, size_t& slot);
/// The first gesture that is due now; those come first of all slots.
bool dueGesture(const Device& device, size_t& slot);

#ifndef VESTIBULE_LONGEST_TOPIC
#define VESTIBULE_LONGEST_TOPIC 128
#endif
#ifndef VESTIBULE_LONGEST_PAYLOAD
#define VESTIBULE_LONGEST_PAYLOAD 96
#endif
constexpr size_t LONGEST_TOPIC = VESTIBULE_LONGEST_TOPIC;
constexpr size_t LONGEST_PAYLOAD = VESTIBULE_LONGEST_PAYLOAD;

// Room for what is being said. One thing is said at a time, so where there is one controller the same room serves all
// of it, and the stack is no deeper than its calls.
#ifdef VESTIBULE_ONE_CONTROLLER
extern char sharedTopic[LONGEST_TOPIC];
extern char sharedPayload[LONGEST_PAYLOAD];
#define VESTIBULE_TOPIC(name) char* const name = sharedTopic
#define VESTIBULE_PAYLOAD(name) char* const name = sharedPayload
#else
#define VESTIBULE_TOPIC(name) char name[LONGEST_TOPIC]
#define VESTIBULE_PAYLOAD(name) char name[LONGEST_PAYLOAD]
#endif

// link.cpp, reports.cpp
void join(Device& device, uint8_t link);
/// All links start to join, in their order.
void joinAll(Device& device);
/// As it is without power.
void forgetLinks(Device& device);
void linkChanges(Device& device, uint8_t link, bool up);
void windowOver(Device& device, uint8_t link);
bool anyUp(const Device& device);
#ifndef VESTIBULE_NO_LINK
inline bool isUp(const Device& device, uint8_t link) { return device.links[link].state == LinkState::up; }
#endif
void heartbeat(Device& device);
void sensorDue(Device& device, uint8_t sensor);
void sendReports(Device& device);
void log(Device& device, Words first, Words topic, Words last);
void logPoint(Device& device, uint8_t vp, Words last);
void logCode(Device& device, Words selector, uint8_t code);
void logBounce(Device& device, Words input, uint8_t ms);
void logKey(Device& device, const Frame& frame);
void tellHub(Device& device, uint8_t channel, Gesture gesture, bool closed, uint8_t level);
/// A point with fewer values than its stepped channel has levels says on and off.
bool isOnOffPoint(const Device& device, const Point& point);

// channels.cpp
/// Its state is another, and who made it so.
inline void speakOf(ChannelState& channel, Source source) {
#ifndef VESTIBULE_NO_LINK
  channel.source = source;
  channel.seq++;
#endif
  (void)source;
  channel.reportDue = true;
}
void command(Device& device, uint8_t channel, Action action, uint8_t level, Source source);
void goTo(Device& device, uint8_t channel, uint8_t level, Source source);
/// What a command asks of a channel that is not pulsed; false: its kind does not know the word.
bool targetOf(const Device& device, uint8_t channel, Action action, uint8_t level, uint8_t& target);
void limitReached(Device& device, uint8_t channel);
void restOver(Device& device, uint8_t channel);
void waitingTurnsOn(Device& device, uint8_t channel);
bool hasContact(const Device& device, uint8_t channel);
/// False: not known.
bool doorIsClosed(const Device& device, uint8_t channel, bool& closed);

// contacts.cpp
/// A relay needs this long to let go, ms: a contact that was told open for less has not been open.
constexpr uint16_t REST_MS = 100;
/// A contact has opened, or its channel gone to level 0 while it was open.
void beginRest(Device& device, uint8_t channel);
/// Brings all contacts to the levels of their channels.
void commitContacts(Device& device);
void writeContact(Device& device, uint8_t channel, uint8_t contact, bool closed);

// powerup.cpp
constexpr uint8_t LAST_LEVEL = 254;  ///< "on, at the last level" where a level is asked for
void powerUpChannel(Device& device, uint8_t channel);
void learnedFromWall(Device& device, uint8_t channel, uint8_t level);
void servedAtPowerUp(Device& device, uint8_t channel, uint8_t level);
void giveTurns(Device& device);
void serviceWaitOver(Device& device, uint8_t channel);
/// What the timetable says for a channel that waits for the clock; NO_LEVEL: it says nothing.
void timedAtPowerUp(Device& device, uint8_t channel, uint8_t level);

// store.cpp
void storeSoon(Device& device);
void storeDue(Device& device);

// auto.cpp
VESTIBULE_RARE bool handInAuto(Device& device, uint8_t channel, Action action, uint8_t level);
void setMode(Device& device, bool isAuto);
void yieldOver(Device& device, uint8_t channel);
bool isAuto(const Device& device);

// deeds.cpp
/// Points of a carrier that no longer wait for what the service holds: a hand has spoken.
#ifdef VESTIBULE_NO_LINK
inline void speakFirst(Device&, Carries, uint8_t) {}
#else
void speakFirst(Device& device, Carries carries, uint8_t index);
#endif
/// A command by a person. In auto mode the controller's policy says what becomes of it.
inline void byHand(Device& device, uint8_t channel, Action action, uint8_t level, Source source) {
  if (device.channels[channel].isAuto && !handInAuto(device, channel, action, level)) return;
  speakFirst(device, Carries::channel, channel);
  command(device, channel, action, level, source);
}
/// Auto or manual, by a person.
inline void modeByHand(Device& device, bool isAuto) {
  speakFirst(device, Carries::mode, 0);
  setMode(device, isAuto);
}
void groupCommand(Device& device, uint8_t group, Action action, uint8_t level, Source source);
void doDeed(Device& device, const Deed& deed, Action action, uint8_t level, Source source);

// rules.cpp
void sensorArrives(Device& device, uint8_t sensor, int32_t value);
void sensorStale(Device& device, uint8_t sensor);
void dwellOver(Device& device, uint8_t rule);
void applyWishes(Device& device, uint8_t channel);

// schedule.cpp
void clockSet(Device& device, uint32_t weekMs);
void scheduleDue(Device& device);

// watch.cpp
void startWatch(Device& device);
void heartbeatHeard(Device& device, bool retain);
void watchLost(Device& device);
void graceOver(Device& device);
void steadyOver(Device& device);

// infrared.cpp: false where nothing was decoded
bool decodeFrame(const uint16_t* list, size_t count, Frame& frame);

// remote.cpp
void frameArrives(Device& device, const Frame& frame, bool repeat);

// serial.cpp
void characterArrives(Device& device, char character);
void sendStatusLine(Device& device);

// mirror.cpp
void lineArrives(Device& device, const char* text, size_t length);
void forgetMain(Device& device);
void mainLost(Device& device);

// sayToMain.cpp
void sayToChannel(Device& device, uint8_t channel, Action action, uint8_t level);
void sayMode(Device& device, bool isAuto);

// inputs.cpp
void levelArrives(Device& device, uint8_t input, uint8_t bit, uint8_t level);
void settled(Device& device, uint8_t input);
void held(Device& device, uint8_t input);

// messages.cpp
void messageArrives(Device& device, uint8_t link, const char* topic, const char* payload, size_t length, bool retain);

}  // namespace vestibule

#endif
