// The stored record under a cut of the power at every byte. Prints what it found wrong, then "N cuts".
#include <cstdint>
#include <cstdio>
#include <cstring>

#include "../runtime/vestibule.h"

namespace {

using namespace vestibule;

constexpr uint8_t CHANNELS = 5;
constexpr uint8_t TOP = 4;
constexpr size_t BYTES = 2 * recordBytes(CHANNELS);
/// a record's bytes, and its last one once more before them
constexpr size_t WRITES = recordBytes(CHANNELS) + 1;

struct Cut {
  uint8_t bytes[BYTES];
  /// writes that still succeed; the one after them leaves `torn` in its place
  size_t left;
  uint8_t torn;
  bool dark;
};

uint8_t readByte(void* context, size_t at) { return static_cast<Cut*>(context)->bytes[at]; }
void writeByte(void* context, size_t at, uint8_t value) {
  Cut& cut = *static_cast<Cut*>(context);
  if (cut.dark) return;
  if (cut.left == 0) {
    cut.bytes[at] = cut.torn;
    cut.dark = true;
    return;
  }
  cut.left--;
  cut.bytes[at] = value;
}

uint32_t state = 2463534242u;
uint32_t next() {
  state ^= state << 13;
  state ^= state >> 17;
  state ^= state << 5;
  return state;
}

Channel tables[CHANNELS];
Image image;
ChannelState channels[CHANNELS];
Device device;

struct Stored {
  uint8_t levels[CHANNELS];
  uint8_t lasts[CHANNELS];
  bool modes[CHANNELS];
};

bool same(const Stored& a, const Stored& b) { return memcmp(&a, &b, sizeof a) == 0; }

Stored draw() {
  Stored stored;
  memset(&stored, 0, sizeof stored);
  for (uint8_t i = 0; i < CHANNELS; i++) {
    stored.levels[i] = static_cast<uint8_t>(next() % (TOP + 1));
    stored.lasts[i] = static_cast<uint8_t>(next() % (TOP + 1));
    stored.modes[i] = next() % 2 != 0;
  }
  return stored;
}

void put(const Stored& stored) {
  for (uint8_t i = 0; i < CHANNELS; i++) {
    channels[i].storedLevel = stored.levels[i];
    channels[i].storedLast = stored.lasts[i];
    channels[i].storedAuto = stored.modes[i];
  }
}

bool get(Cut& cut, Stored& stored) {
  const Memory memory = {&cut, readByte, writeByte};
  memset(&stored, 0, sizeof stored);
  put(stored);
  device.hasStored = false;
  if (!loadRecord(device, memory)) return false;
  for (uint8_t i = 0; i < CHANNELS; i++) {
    stored.levels[i] = channels[i].storedLevel;
    stored.lasts[i] = channels[i].storedLast;
    stored.modes[i] = channels[i].storedAuto;
  }
  return true;
}

void save(Cut& cut, const Stored& stored) {
  const Memory memory = {&cut, readByte, writeByte};
  put(stored);
  saveRecord(device, memory);
}

}  // namespace

int main() {
  for (uint8_t i = 0; i < CHANNELS; i++) tables[i].top = TOP;
  image.channels = tables;
  image.channelCount = CHANNELS;
  device.image = &image;
  device.channels = channels;

  long cuts = 0, wrong = 0;
  for (int history = 0; history < 300; history++) {
    Cut whole;
    // a store that is new, worn full of anything, or was cleared
    for (size_t i = 0; i < BYTES; i++)
      whole.bytes[i] = history % 3 == 0 ? 0xff : history % 3 == 1 ? 0 : static_cast<uint8_t>(next());
    whole.left = ~static_cast<size_t>(0);
    whole.dark = false;
    // the 300 histories also take the record's number across its wrap
    if (history == 7) {
      for (long k = 0; k < 65530; k++) save(whole, draw());
    }
    Stored old;
    bool hasOld = get(whole, old);
    if (hasOld && history != 7) wrong++, printf("history %d: something was read out of nothing\n", history);
    for (int k = 0; k < 12; k++) {
      const Stored fresh = draw();
      for (size_t at = 0; at <= WRITES; at++) {
        for (int kind = 0; kind < 3; kind++) {
          Cut cut = whole;
          cut.left = at;
          cut.torn = kind == 0 ? 0xff : kind == 1 ? 0 : static_cast<uint8_t>(next());
          save(cut, fresh);
          Stored after;
          const bool has = get(cut, after);
          cuts++;
          if (has ? !((hasOld && same(after, old)) || same(after, fresh)) : hasOld)
            wrong++, printf("history %d, record %d, cut at byte %zu: neither the old nor the new\n", history, k, at);
          if (at == WRITES && !(has && same(after, fresh)))
            wrong++, printf("history %d, record %d: a whole record is not read\n", history, k);
          // what comes after the cut is stored again
          cut.left = ~static_cast<size_t>(0);
          cut.dark = false;
          const Stored later = draw();
          save(cut, later);
          if (!get(cut, after) || !same(after, later))
            wrong++, printf("history %d, record %d, cut at byte %zu: the next record is lost\n", history, k, at);
        }
      }
      save(whole, fresh);
      old = fresh;
      hasOld = true;
    }
  }
  // a store full of anything never gives a level that the channel does not have
  for (int k = 0; k < 200000; k++) {
    Cut any;
    for (size_t i = 0; i < BYTES; i++) any.bytes[i] = static_cast<uint8_t>(next());
    Stored read;
    if (!get(any, read)) continue;
    for (uint8_t i = 0; i < CHANNELS; i++) {
      if (read.levels[i] > TOP || read.lasts[i] > TOP) wrong++, printf("a level above the top\n");
    }
  }
  printf("%ld cuts\n", cuts);
  return wrong == 0 ? 0 : 1;
}
