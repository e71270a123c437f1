// What the runtime's files share among themselves; ports include vestibule.h only.
#ifndef VESTIBULE_INSIDE_H
#define VESTIBULE_INSIDE_H

#include "vestibule.h"

namespace vestibule {

// time.ts: signed difference, right across the wrap (RFC 1982)
inline int32_t difference(uint32_t a, uint32_t b) { return static_cast<int32_t>(a - b); }

// slots.ts, timers.ts
enum class Slot : uint8_t {
  settle, hold,
  limit, offGap, turnOn, serviceWait, reportGap, gap, yield,
  stale, sensorDue,
  dwell,
  store, join, heartbeat, window, watch, grace, steady, status, pressWindow, keyRepeat, schedule
};
size_t slotOf(const Image& image, Slot kind, uint8_t index = 0);
void ownerOf(const Image& image, size_t slot, Slot& kind, uint8_t& index);
void arm(Device& device, size_t slot, uint32_t ms);
void cancel(Device& device, size_t slot);
void cancelAll(Device& device);
bool isArmed(const Device& device, size_t slot);
bool nextSlot(Device& device, size_t& slot);

// text.cpp: bounded text, always ended; what does not fit is cut
struct Text {
  char* at;
  size_t left;
};
void append(Text& text, Words words);
void append(Text& text, char character);
void appendNumber(Text& text, uint32_t number);
void appendSigned(Text& text, int32_t number);
void appendThousandths(Text& text, int32_t thousandths);
bool equals(const char* a, size_t length, Words b);
constexpr size_t LONGEST_TOPIC = 128;
constexpr size_t LONGEST_PAYLOAD = 80;

// link.cpp, reports.cpp
void join(Device& device);
void linkChanges(Device& device, bool up);
void windowOver(Device& device);
void heartbeat(Device& device);
void sensorDue(Device& device, uint8_t sensor);
void sendReports(Device& device);
void log(Device& device, Words first, Words topic, Words last);
void logPoint(Device& device, uint8_t vp, Words last);
void logCode(Device& device, Words selector, uint8_t code);
void tellHub(Device& device, uint8_t channel, Gesture gesture, bool closed, uint8_t level);

// channels.cpp
void command(Device& device, uint8_t channel, Action action, uint8_t level, Source source);
void goTo(Device& device, uint8_t channel, uint8_t level, Source source);
void limitReached(Device& device, uint8_t channel);
void offGapOver(Device& device, uint8_t channel);
bool hasContact(const Device& device, uint8_t channel);
/// False: not known.
bool doorIsClosed(const Device& device, uint8_t channel, bool& closed);

// contacts.cpp
void commitChannel(Device& device, uint8_t channel);
void writeContact(Device& device, uint8_t channel, uint8_t contact, bool closed);

// powerup.cpp
constexpr uint8_t LAST_LEVEL = 254;  ///< "on, at the last level" where a level is asked for
void powerUpChannel(Device& device, uint8_t channel);
void learnedFromWall(Device& device, uint8_t channel, uint8_t level);
void servedAtPowerUp(Device& device, uint8_t channel, uint8_t level);
void staggerTurn(Device& device, uint8_t channel);
void serviceWaitOver(Device& device, uint8_t channel);

// store.cpp
void storeSoon(Device& device);
void storeDue(Device& device);

// deeds.cpp
void doDeed(Device& device, const Deed& deed, Action action, uint8_t level, Source source);
void byHand(Device& device, uint8_t channel, Action action, uint8_t level, Source source);

// auto.cpp
bool handInAuto(Device& device, uint8_t channel);
void setMode(Device& device, bool isAuto);
void yieldOver(Device& device, uint8_t channel);
bool isAuto(const Device& device);

// rules.cpp
bool rulesMayAct(const Device& device, uint8_t channel);
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

// inputs.cpp
void levelArrives(Device& device, uint8_t input, uint8_t bit, uint8_t level);
void settled(Device& device, uint8_t input);
void held(Device& device, uint8_t input);

// messages.cpp
void messageArrives(Device& device, const char* topic, const char* payload, size_t length, bool retain);

}  // namespace vestibule

#endif
