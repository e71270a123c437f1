#include "reach.h"

#include <fcntl.h>
#include <netdb.h>
#include <poll.h>
#include <sys/socket.h>
#include <unistd.h>

#include <cerrno>
#include <string>

namespace host {

/// An address that has not answered by then is not there, ms.
static constexpr uint32_t LONGEST_MS = 5000;

void Reach::close() {
  if (socket >= 0) ::close(socket);
  socket = -1;
}

void Reach::ask(const char* address, int port, uint32_t now) {
  close();
  since = now;
  asking = true;
  addrinfo hints = {};
  hints.ai_socktype = SOCK_STREAM;
  addrinfo* found = nullptr;
  if (getaddrinfo(address, std::to_string(port).c_str(), &hints, &found) != 0) return;
  socket = ::socket(found->ai_family, found->ai_socktype, found->ai_protocol);
  if (socket >= 0) {
    fcntl(socket, F_SETFL, fcntl(socket, F_GETFL, 0) | O_NONBLOCK);
    if (connect(socket, found->ai_addr, found->ai_addrlen) != 0 && errno != EINPROGRESS) close();
  }
  freeaddrinfo(found);
}

Reach::Answer Reach::answer(uint32_t now) {
  pollfd wait = {socket, POLLOUT, 0};
  if (socket >= 0 && poll(&wait, 1, 0) == 0 && now - since < LONGEST_MS) return Answer::waiting;
  int error = ECONNREFUSED;
  socklen_t size = sizeof error;
  if (socket < 0 || (wait.revents & (POLLOUT | POLLERR | POLLHUP)) == 0 ||
      getsockopt(socket, SOL_SOCKET, SO_ERROR, &error, &size) != 0)
    error = ECONNREFUSED;
  close();
  asking = false;
  return error == 0 ? Answer::reached : Answer::refused;
}

}  // namespace host
