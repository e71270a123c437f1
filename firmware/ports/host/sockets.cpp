#include "sockets.h"

#include <fcntl.h>
#include <netdb.h>
#include <netinet/in.h>
#include <netinet/tcp.h>
#include <poll.h>
#include <sys/socket.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <string>

namespace host {

namespace {

using vestibule::wires::Connection;

void neverWaits(int handle) {
  fcntl(handle, F_SETFL, fcntl(handle, F_GETFL, 0) | O_NONBLOCK);
  // a packet goes when it is written, not when more has come (RFC 896 would hold it back)
  const int yes = 1;
  setsockopt(handle, IPPROTO_TCP, TCP_NODELAY, &yes, sizeof yes);
}

void closes(PosixSocket& socket) {
  if (socket.handle >= 0) ::close(socket.handle);
  socket.handle = -1;
  socket.connecting = false;
}

bool opens(PosixSocket& socket, const char* address, uint16_t port) {
  closes(socket);
  addrinfo hints = {};
  hints.ai_socktype = SOCK_STREAM;
  addrinfo* found = nullptr;
  if (getaddrinfo(address, std::to_string(port).c_str(), &hints, &found) != 0) return false;
  socket.handle = ::socket(found->ai_family, found->ai_socktype, found->ai_protocol);
  if (socket.handle >= 0) {
    neverWaits(socket.handle);
    socket.connecting = true;
    if (connect(socket.handle, found->ai_addr, found->ai_addrlen) != 0 && errno != EINPROGRESS) closes(socket);
  }
  freeaddrinfo(found);
  return socket.handle >= 0;
}

Connection stateOf(PosixSocket& socket) {
  if (socket.handle < 0) return Connection::closed;
  if (!socket.connecting) return Connection::open;
  pollfd wait = {socket.handle, POLLOUT, 0};
  if (poll(&wait, 1, 0) == 0) return Connection::opening;
  int error = 0;
  socklen_t size = sizeof error;
  if (getsockopt(socket.handle, SOL_SOCKET, SO_ERROR, &error, &size) != 0 || error != 0) {
    closes(socket);
    return Connection::closed;
  }
  socket.connecting = false;
  return Connection::open;
}

size_t moved(PosixSocket& socket, ssize_t size) {
  if (size > 0) return static_cast<size_t>(size);
  if (size == 0 || (errno != EAGAIN && errno != EWOULDBLOCK && errno != EINTR)) closes(socket);
  return 0;
}

}  // namespace

vestibule::wires::Socket socketOf(PosixSocket& socket) {
  return {&socket,
          // no TLS on this port: its services are stand-ins on the same machine
          [](void* context, const char* address, uint16_t port, bool tls) {
            return !tls && opens(*static_cast<PosixSocket*>(context), address, port);
          },
          [](void* context) { return stateOf(*static_cast<PosixSocket*>(context)); },
          [](void* context, uint8_t* buffer, size_t size) {
            PosixSocket& own = *static_cast<PosixSocket*>(context);
            return own.handle < 0 ? 0 : moved(own, recv(own.handle, buffer, size, 0));
          },
          [](void* context, const uint8_t* bytes, size_t size) {
            PosixSocket& own = *static_cast<PosixSocket*>(context);
            if (own.handle < 0 || size == 0) return static_cast<size_t>(0);
            return moved(own, send(own.handle, bytes, size, MSG_NOSIGNAL));
          },
          [](void* context) { closes(*static_cast<PosixSocket*>(context)); }};
}

vestibule::wires::Listener listenerOf(PosixListener& listener) {
  return {
      &listener,
      [](void* context, uint16_t port) {
        PosixListener& own = *static_cast<PosixListener*>(context);
        if (own.handle >= 0) return true;
        own.handle = ::socket(AF_INET, SOCK_STREAM, 0);
        const int yes = 1;
        setsockopt(own.handle, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
        sockaddr_in place = {};
        place.sin_family = AF_INET;
        place.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        place.sin_port = htons(port);
        if (bind(own.handle, reinterpret_cast<sockaddr*>(&place), sizeof place) == 0 && listen(own.handle, 4) == 0) {
          neverWaits(own.handle);
          return true;
        }
        ::close(own.handle);
        own.handle = -1;
        return false;
      },
      [](void* context) {
        PosixListener& own = *static_cast<PosixListener*>(context);
        if (own.handle < 0 || own.caller->handle >= 0) return false;
        const int caller = ::accept(own.handle, nullptr, nullptr);
        if (caller < 0) return false;
        neverWaits(caller);
        own.caller->handle = caller;
        own.caller->connecting = false;
        return true;
      }};
}

}  // namespace host
