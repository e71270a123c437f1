// Output lines, byte for byte those of core/device/trace.ts.
#ifndef VESTIBULE_HOST_OUTPUT_H
#define VESTIBULE_HOST_OUTPUT_H

#include "vestibule.h"

namespace host {

void writeOut(const vestibule::Device& device, uint8_t channel, uint8_t contact, bool closed);
void writePublish(const vestibule::Device& device, uint8_t link, const char* topic, const char* payload, bool retain);
void writeSubscribe(const vestibule::Device& device, uint8_t link, const char* topic);
void writeJoin(const vestibule::Device& device, uint8_t link);
void writeStore(const vestibule::Device& device);
/// Takes the status line that waits.
void writeLine(vestibule::Device& device);
void writeSay(const vestibule::Device& device, char character);
void writeCredentials(const vestibule::Device& device, bool reset);

/// What the engine does on the wire of a link.
void writeConnect(uint32_t now, const char* of);
void writeHear(uint32_t now, const char* of, const char* topic, uint8_t qos);
void writeWireSay(uint32_t now, const char* of, const char* topic, const char* payload, uint8_t qos, bool retain);
void writeAsk(uint32_t now, const char* of, const char* method, const char* path, const char* body);
void writeReply(uint32_t now, const char* of, uint16_t status);
/// The controller offers itself to be paired, has been, or offers itself no more.
void writePairing(uint32_t now, const char* how);
void writeNote(uint32_t now, const char* of, const char* text);

}  // namespace host

#endif
