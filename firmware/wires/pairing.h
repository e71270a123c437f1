// Pairing: a hand at the controller asks for it, a phone beside it says the PIN of its label and then what the board
// needs: network and logins. Lines of text over the short range, each with a line feed (docs/wires.md, "Pairing"):
//
//   phone: vestibule-pair PIN        board: ok SITE/CONTROLLER HASH · wrong TRIES-LEFT · wait SECONDS
//   phone: network TEXT · secret TEXT · address LINK TEXT · port LINK NUMBER · user LINK TEXT · password LINK TEXT
//   phone: end                       board: done · bad WORD
//
// Nothing is taken before `end`, and then all of it.
#ifndef VESTIBULE_PAIRING_H
#define VESTIBULE_PAIRING_H

#include "paired.h"
#include "socket.h"

namespace vestibule {
namespace pairing {

/// An offer ends by itself (common practice).
constexpr uint32_t OFFER_MS = 600000;
/// So many wrong PINs, and nobody is let in for so long: the right one neither, else it could be guessed meanwhile.
constexpr uint8_t MOST_WRONG = 5;
constexpr uint32_t CLOSED_MS = 600000;
/// Of one phone's silence.
constexpr uint32_t LONGEST_SILENCE_MS = 30000;

/// Who the board is, and what it is asked for. A board with an empty PIN cannot be paired.
struct Identity {
  Words prefix;  ///< "vestibule/<site>/<controller>/"
  Words hash;
  Words pin;
  const Words* links;  ///< their ids
  uint8_t linkCount;
};

struct Pairing {
  const Identity* identity;
  wires::Listener listener;
  wires::Socket socket;
  Settings* settings;
  Settings draft;
  uint16_t port;
  bool isOffered;
  bool isOpen;   ///< somebody is connected
  bool isKnown;  ///< … and has said the PIN
  bool isNew;    ///< the settings are new, and nobody has asked yet
  uint8_t wrong;
  bool isClosed;
  uint32_t closedUntil;
  uint32_t offeredUntil;
  uint32_t heardAt;
  char line[160];
  uint8_t lineLength;
  bool tooLong;
};

void prepare(Pairing& pairing, const Identity& identity, const wires::Listener& listener, const wires::Socket& socket,
             uint16_t port, Settings& settings);
/// Begins to offer, as a hand has asked; false: it cannot be paired.
bool offer(Pairing& pairing, uint32_t nowMs);
void pass(Pairing& pairing, uint32_t nowMs);
/// Has it been paired since this was asked last?
bool takesNews(Pairing& pairing);

}  // namespace pairing
}  // namespace vestibule

#endif
