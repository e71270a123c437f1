// Whether the broker's address answers, found out without waiting for it: a network that swallows everything must not
// hold up a press, and the client library's own connect waits.
#ifndef VESTIBULE_HOST_REACH_H
#define VESTIBULE_HOST_REACH_H

#include <cstdint>

namespace host {

class Reach {
 public:
  enum class Answer { waiting, reached, refused };
  /// Begins to ask; `now` in ms. The address is a number or a name that this machine knows.
  void ask(const char* address, int port, uint32_t now);
  /// Must be called again and again while it is waiting.
  Answer answer(uint32_t now);
  bool isAsking() const { return asking; }

 private:
  void close();
  int socket = -1;
  uint32_t since = 0;
  bool asking = false;
};

}  // namespace host

#endif
