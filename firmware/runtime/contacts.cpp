#include "inside.h"

namespace vestibule {

void writeContact(Device& device, uint8_t index, uint8_t contact, bool closed) {
  // Polarity is applied here, once.
  device.port->output(device.port->context, index, contact, closed,
                      closed != row(&device.image->channels[index].activeLow));
}

static void writeContacts(Device& device, uint8_t index, uint8_t contacts, uint8_t mask) {
  const uint8_t changed = device.channels[index].closed ^ mask;
  device.channels[index].closed = mask;
  uint8_t bit = 1;
  for (uint8_t contact = 0; contact < contacts; contact++) {
    if ((changed & bit) != 0) writeContact(device, index, contact, (mask & bit) != 0);
    bit = static_cast<uint8_t>(bit << 1);
  }
}

// Of a contact whose limit runs: only REST_MS of being open end it. A stepped channel is open for the gap
// between two levels, which is no rest.
void beginRest(Device& device, uint8_t index) {
  const ChannelState& channel = device.channels[index];
  if (!isArmed(device, slotOf(*device.image, Slot::limit, index))) return;
  const ChannelKind kind = row(&device.image->channels[index].kind);
  const bool rests = channel.closed == 0 && (channel.level == 0 || kind == ChannelKind::paired);
  if (rests && limitRunsFromContact(kind)) arm(device, slotOf(*device.image, Slot::rest, index), REST_MS);
}

// Opens first what must open; closes what must close once gapMs has passed since the last opening. A change of mind
// during the gap only changes what is closed at its end. A limit runs from the closing of the contact, and asking again
// does not stretch it.
static inline void commitChannel(Device& device, uint8_t index) {
  ChannelState& channel = device.channels[index];
  // single fields: a whole row costs a copy where tables stay in flash
  const Channel* table = device.image->channels + index;
  const uint8_t wanted = row(device.image->patterns + row(&table->firstPattern) + channel.level);
  if (channel.closed == wanted) return;
  const uint8_t contacts = row(&table->contacts);
  const size_t gap = slotOf(*device.image, Slot::gap, index);
  if ((channel.closed & ~wanted) != 0) {
    writeContacts(device, index, contacts, channel.closed & wanted);
    const uint16_t gapMs = row(&table->gapMs);
    if (gapMs > 0) arm(device, gap, gapMs);
    beginRest(device, index);
  }
  if (channel.closed == wanted) return;
  // Dead time stands between different directions: the one that ran last may run on at once.
  if (isArmed(device, gap) && (row(&table->kind) != ChannelKind::paired || wanted != channel.lastClosed)) return;
  writeContacts(device, index, contacts, wanted);
  channel.lastClosed = wanted;
  const uint32_t longest = row(&table->maxOnMs);
  if (longest == 0 || !limitRunsFromContact(row(&table->kind))) return;
  cancel(device, slotOf(*device.image, Slot::rest, index));
  const size_t limit = slotOf(*device.image, Slot::limit, index);
  if (!isArmed(device, limit)) arm(device, limit, longest);
}

void commitContacts(Device& device) {
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    commitChannel(device, i);
  }
}

}  // namespace vestibule
