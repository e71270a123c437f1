// A stand-in for the datagrams of a board core, on loopback.
#ifndef VESTIBULE_TEST_WIFI_UDP_H
#define VESTIBULE_TEST_WIFI_UDP_H

#include "WiFi.h"

class WiFiUDP {
 public:
  uint8_t begin(uint16_t) {
    handle = ::socket(AF_INET, SOCK_DGRAM, 0);
    fcntl(handle, F_SETFL, O_NONBLOCK);
    return 1;
  }
  int beginPacket(const char* address, uint16_t port) {
    to = sockaddr_in();
    to.sin_family = AF_INET;
    to.sin_port = htons(port);
    return inet_pton(AF_INET, address, &to.sin_addr);
  }
  size_t write(const uint8_t* bytes, size_t size) {
    const ssize_t sent = sendto(handle, bytes, size, 0, reinterpret_cast<const sockaddr*>(&to), sizeof to);
    return sent > 0 ? static_cast<size_t>(sent) : 0;
  }
  int endPacket() { return 1; }
  int parsePacket() {
    uint8_t peek[512];
    const ssize_t size = recv(handle, peek, sizeof peek, MSG_PEEK);
    return size > 0 ? static_cast<int>(size) : 0;
  }
  int read(uint8_t* buffer, size_t size) { return static_cast<int>(recv(handle, buffer, size, 0)); }

 private:
  int handle = -1;
  sockaddr_in to = {};
};

#endif
