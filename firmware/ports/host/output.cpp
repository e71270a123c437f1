#include "output.h"

#include <cstdio>
#include <string>

#include "events.h"

namespace host {

void writeOut(const vestibule::Device& device, uint8_t channel, uint8_t contact, bool closed) {
  const vestibule::Channel& table = device.image->channels[channel];
  const std::string name =
      vestibule::isNumbered(table.kind) ? std::string(table.id) + "." + std::to_string(contact + 1) : table.id;
  std::printf("{\"t\":%lu,\"out\":%s,\"level\":%d}\n", static_cast<unsigned long>(device.now), quoted(name).c_str(),
              closed ? 1 : 0);
}

static std::string of(const vestibule::Device& device, uint8_t link) {
  return link == 0 ? std::string() : ",\"of\":" + quoted(device.image->links[link].id);
}

void writePublish(const vestibule::Device& device, uint8_t link, const char* topic, const char* payload, bool retain) {
  std::printf("{\"t\":%lu,\"pub\":{\"topic\":%s,\"payload\":%s,\"retain\":%s}%s}\n",
              static_cast<unsigned long>(device.now), quoted(topic).c_str(), quoted(payload).c_str(),
              retain ? "true" : "false", of(device, link).c_str());
}

void writeSubscribe(const vestibule::Device& device, uint8_t link, const char* topic) {
  std::printf("{\"t\":%lu,\"sub\":%s%s}\n", static_cast<unsigned long>(device.now), quoted(topic).c_str(),
              of(device, link).c_str());
}

void writeJoin(const vestibule::Device& device, uint8_t link) {
  std::printf("{\"t\":%lu,\"link\":\"joining\"%s}\n", static_cast<unsigned long>(device.now), of(device, link).c_str());
}

void writeStore(const vestibule::Device& device) {
  std::string words;
  for (uint8_t i = 0; i < device.image->channelCount; i++) {
    const vestibule::Channel& table = device.image->channels[i];
    const std::string id = table.id;
    if (vestibule::isStored(*device.image, i)) {
      words += (words.empty() ? "" : " ") + id + "=" + std::to_string(device.channels[i].storedLevel);
      if (vestibule::keepsLastLevel(table.kind)) words += "," + std::to_string(device.channels[i].storedLast);
    }
    if (table.ruled) words += (words.empty() ? "" : " ") + id + (device.channels[i].storedAuto ? ":auto" : ":manual");
  }
  std::printf("{\"t\":%lu,\"store\":%s}\n", static_cast<unsigned long>(device.now), quoted(words).c_str());
}

void writeLine(vestibule::Device& device) {
  std::string line;
  char character;
  while (vestibule::lineCharacter(device, character)) {
    if (character != '\n') line += character;
  }
  std::printf("{\"t\":%lu,\"line\":%s}\n", static_cast<unsigned long>(device.now), quoted(line).c_str());
}

void writeSay(const vestibule::Device& device, char character) {
  std::printf("{\"t\":%lu,\"char\":%s}\n", static_cast<unsigned long>(device.now),
              quoted(std::string(1, character)).c_str());
}

void writeCredentials(const vestibule::Device& device, bool reset) {
  std::printf("{\"t\":%lu,\"do\":\"%s\"}\n", static_cast<unsigned long>(device.now), reset ? "reset" : "pair");
}

static void beginLine(uint32_t now, const char* of) {
  std::printf("{\"t\":%lu,\"of\":%s,", static_cast<unsigned long>(now), quoted(of).c_str());
}

void writeConnect(uint32_t now, const char* of) {
  beginLine(now, of);
  std::printf("\"connect\":true}\n");
}

void writeHear(uint32_t now, const char* of, const char* topic, uint8_t qos) {
  beginLine(now, of);
  std::printf("\"hear\":%s,\"qos\":%d}\n", quoted(topic).c_str(), qos);
}

void writeWireSay(uint32_t now, const char* of, const char* topic, const char* payload, uint8_t qos, bool retain) {
  beginLine(now, of);
  std::printf("\"say\":{\"topic\":%s,\"payload\":%s,\"qos\":%d,\"retain\":%s}}\n", quoted(topic).c_str(),
              quoted(payload).c_str(), qos, retain ? "true" : "false");
}

void writeAsk(uint32_t now, const char* of, const char* method, const char* path, const char* body) {
  beginLine(now, of);
  std::printf("\"ask\":{\"method\":%s,\"path\":%s,\"body\":%s}}\n", quoted(method).c_str(), quoted(path).c_str(),
              quoted(body).c_str());
}

void writeReply(uint32_t now, const char* of, uint16_t status) {
  beginLine(now, of);
  std::printf("\"reply\":%d}\n", status);
}

void writePairing(uint32_t now, const char* how) {
  std::printf("{\"t\":%lu,\"pairing\":\"%s\"}\n", static_cast<unsigned long>(now), how);
}

void writeNote(uint32_t now, const char* of, const char* text) {
  beginLine(now, of);
  std::printf("\"note\":%s}\n", quoted(text).c_str());
}

}  // namespace host
