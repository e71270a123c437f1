// What a board has been told when it was paired, and how it keeps that: two slots, so that a cut at any byte leaves the
// old or the new. What is empty stands in the program, in secrets.h.
#ifndef VESTIBULE_PAIRED_H
#define VESTIBULE_PAIRED_H

#include "vestibule.h"

namespace vestibule {
namespace pairing {

/// IEEE 802.11: a network's name has 32 bytes at most; WPA2: a passphrase 63 characters. With their ends.
constexpr size_t NAME_SIZE = 33;
constexpr size_t SECRET_SIZE = 65;

struct LinkSettings {
  char address[SECRET_SIZE];
  uint16_t port;  ///< 0: that of the program
  char user[SECRET_SIZE];
  char password[SECRET_SIZE];  ///< or the key of calls
};

struct Settings {
  /// After a reset nothing of the program counts either, until the board is paired again.
  bool isForgotten;
  bool isPaired;
  char network[NAME_SIZE];
  char secret[SECRET_SIZE];
  LinkSettings links[MOST_LINKS];
};

/// Bytes of the store, both slots.
constexpr size_t LINK_BYTES = 3 * (SECRET_SIZE - 1) + 2;
constexpr size_t SLOT_BYTES = 1 + 2 + 1 + (NAME_SIZE - 1) + (SECRET_SIZE - 1) + MOST_LINKS * LINK_BYTES + 2;
constexpr size_t STORED_BYTES = 2 * SLOT_BYTES;

void save(const Settings& settings, const Memory& memory, size_t at);
/// False: nothing was ever stored.
bool load(Settings& settings, const Memory& memory, size_t at);

}  // namespace pairing
}  // namespace vestibule

#endif
