#include "inside.h"

namespace vestibule {

void writeContact(Device& device, uint8_t index, uint8_t contact, bool closed) {
  // Polarity is applied here, once.
  device.port->output(device.port->context, index, contact, closed, closed != row(&device.image->channels[index].activeLow));
}

static void writeContacts(Device& device, uint8_t index, uint8_t contacts, uint8_t mask) {
  const uint8_t changed = device.channels[index].closed ^ mask;
  device.channels[index].closed = mask;
  for (uint8_t contact = 0; contact < contacts; contact++) {
    if ((changed >> contact & 1) != 0) writeContact(device, index, contact, (mask >> contact & 1) != 0);
  }
}

// Opens first what must open; closes what must close once gapMs has passed since the last opening. A change of mind during the
// gap only changes what is closed at its end.
void commitChannel(Device& device, uint8_t index) {
  const ChannelState& channel = device.channels[index];
  // only one byte of the table is needed each time; a whole row costs a copy where tables stay in flash
  const uint8_t wanted = row(device.image->patterns + row(&device.image->channels[index].firstPattern) + channel.level);
  if (channel.closed == wanted) return;
  const Channel& table = row(device.image->channels + index);
  const size_t gap = slotOf(*device.image, Slot::gap, index);
  if ((channel.closed & ~wanted) != 0) {
    writeContacts(device, index, table.contacts, channel.closed & wanted);
    if (table.gapMs > 0) arm(device, gap, table.gapMs);
  }
  if (channel.closed != wanted && !isArmed(device, gap)) {
    writeContacts(device, index, table.contacts, wanted);
    // A motor's running time counts from when it really starts, after the dead time.
    if (table.kind == ChannelKind::paired && table.maxOnMs > 0) arm(device, slotOf(*device.image, Slot::limit, index), table.maxOnMs);
  }
}

}  // namespace vestibule
