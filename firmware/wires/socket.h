// What a client asks of the network: five functions, of which none ever waits.
#ifndef VESTIBULE_SOCKET_H
#define VESTIBULE_SOCKET_H

#include "tables.h"

namespace vestibule {
namespace wires {

enum class Connection : uint8_t { closed, opening, open };

/// A connection of bytes, in both directions. The port defines it.
struct Socket {
  void* context;
  /// Begins to connect; what was open is closed. False: it cannot even begin.
  bool (*open)(void* context, Words address, uint16_t port, bool tls);
  Connection (*state)(void* context);
  /// What has come, at most `size` bytes; 0: nothing now.
  size_t (*read)(void* context, uint8_t* buffer, size_t size);
  /// How many of the bytes were taken; 0: none now.
  size_t (*write)(void* context, const uint8_t* bytes, size_t size);
  void (*close)(void* context);
};

/// Where somebody connects to the controller; the port defines it, where there are hooks.
struct Listener {
  void* context;
  /// Begins to listen; false: it cannot.
  bool (*listen)(void* context, uint16_t port);
  /// Is there a caller? Then the socket is theirs until it is closed; others wait.
  bool (*accept)(void* context);
};

}  // namespace wires
}  // namespace vestibule

#endif
