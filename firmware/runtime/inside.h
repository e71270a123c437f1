// What the runtime's files share among themselves; ports include vestibule.h only.
#ifndef VESTIBULE_INSIDE_H
#define VESTIBULE_INSIDE_H

#include "vestibule.h"

namespace vestibule {

// time.ts: signed difference, right across the wrap (RFC 1982)
inline int32_t difference(uint32_t a, uint32_t b) { return static_cast<int32_t>(a - b); }

// timers.ts
enum class Slot : uint8_t { settle, hold, limit, offGap, turnOn, serviceWait, reportGap, gap, store, join, heartbeat, window };
size_t slotOf(const Image& image, Slot kind, uint8_t index = 0);
void ownerOf(const Image& image, size_t slot, Slot& kind, uint8_t& index);
void arm(Device& device, size_t slot, uint32_t ms);
void cancel(Device& device, size_t slot);
void cancelAll(Device& device);
bool isArmed(const Device& device, size_t slot);
bool nextSlot(const Device& device, size_t& slot);

// text.cpp: bounded text, always ended; what does not fit is cut
struct Text {
  char* at;
  size_t left;
};
void append(Text& text, const char* words);
void appendNumber(Text& text, uint32_t number);
void appendSigned(Text& text, int32_t number);
bool equals(const char* a, size_t length, const char* b);
size_t lengthOf(const char* text);
constexpr size_t LONGEST_TOPIC = 128;
constexpr size_t LONGEST_PAYLOAD = 64;

// link.cpp
void join(Device& device);
void linkChanges(Device& device, bool up);
void windowOver(Device& device);
void heartbeat(Device& device);
void sendReports(Device& device);
void log(Device& device, const char* first, const char* topic, const char* last);
void logPoint(Device& device, uint8_t vp, const char* last);
void logCode(Device& device, const char* selector, uint8_t code);

// channels.cpp
enum class Do : uint8_t { off, on, toggle, up, down, level };
void command(Device& device, uint8_t channel, Do action, uint8_t level, Source source);
void powerUpChannel(Device& device, uint8_t channel);
constexpr uint8_t LAST_LEVEL = 254;  ///< "on, at the last level" where a level is asked for
void learnedFromWall(Device& device, uint8_t channel, uint8_t level);
void servedAtPowerUp(Device& device, uint8_t channel, uint8_t level);
void limitReached(Device& device, uint8_t channel);
void offGapOver(Device& device, uint8_t channel);
void staggerTurn(Device& device, uint8_t channel);
void serviceWaitOver(Device& device, uint8_t channel);
void storeDue(Device& device);
void commitChannel(Device& device, uint8_t channel);
void writeContact(Device& device, uint8_t channel, uint8_t contact, bool closed);

// inputs.cpp
void levelArrives(Device& device, uint8_t input, uint8_t bit, uint8_t level);
void settled(Device& device, uint8_t input);
void held(Device& device, uint8_t input);

// messages.cpp
void messageArrives(Device& device, const char* topic, const char* payload, size_t length, bool retain);

}  // namespace vestibule

#endif
