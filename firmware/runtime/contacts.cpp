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

// Opens first what must open; closes what must close once gapMs has passed since the last opening. A change of mind
// during the gap only changes what is closed at its end.
void commitChannel(Device& device, uint8_t index) {
  const ChannelState& channel = device.channels[index];
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
  }
  if (channel.closed != wanted && !isArmed(device, gap)) {
    writeContacts(device, index, contacts, wanted);
    // A motor's running time counts from when it really starts, after the dead time.
    const uint32_t runMs = limitRunsFromContact(row(&table->kind)) ? row(&table->maxOnMs) : 0;
    if (runMs > 0) arm(device, slotOf(*device.image, Slot::limit, index), runMs);
  }
}

}  // namespace vestibule
