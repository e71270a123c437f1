// A network that swallows everything: a port on which somebody listens and nobody ever answers. Prints the port. Its
// queue is full, so that a connection is begun and never made.
#include <arpa/inet.h>
#include <fcntl.h>
#include <netinet/in.h>
#include <sys/socket.h>
#include <unistd.h>

#include <cstdio>

int main() {
  const int deaf = socket(AF_INET, SOCK_STREAM, 0);
  sockaddr_in here = {};
  here.sin_family = AF_INET;
  here.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  socklen_t size = sizeof here;
  if (bind(deaf, reinterpret_cast<sockaddr*>(&here), size) != 0 || listen(deaf, 0) != 0) return 1;
  getsockname(deaf, reinterpret_cast<sockaddr*>(&here), &size);
  for (int i = 0; i < 4; i++) {
    const int one = socket(AF_INET, SOCK_STREAM, 0);
    fcntl(one, F_SETFL, O_NONBLOCK);
    connect(one, reinterpret_cast<sockaddr*>(&here), size);
  }
  std::printf("%d\n", ntohs(here.sin_port));
  std::fflush(stdout);
  pause();
  return 0;
}
