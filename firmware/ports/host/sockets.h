// Sockets of this machine (POSIX.1-2017), of which no call waits.
#ifndef VESTIBULE_HOST_SOCKETS_H
#define VESTIBULE_HOST_SOCKETS_H

#include "socket.h"

namespace host {

/// One connection. Names are looked up before it connects; those of the house should be numbers or in /etc/hosts.
struct PosixSocket {
  int handle = -1;
  bool connecting = false;
};
vestibule::wires::Socket socketOf(PosixSocket& socket);

struct PosixListener {
  int handle = -1;
  PosixSocket* caller = nullptr;
};
vestibule::wires::Listener listenerOf(PosixListener& listener);

}  // namespace host

#endif
