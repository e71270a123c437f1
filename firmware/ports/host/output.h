// Output lines, byte for byte those of core/device/trace.ts.
#ifndef VESTIBULE_HOST_OUTPUT_H
#define VESTIBULE_HOST_OUTPUT_H

#include "vestibule.h"

namespace host {

void writeOut(const vestibule::Device& device, uint8_t channel, uint8_t contact, bool closed);
void writePublish(const vestibule::Device& device, const char* topic, const char* payload, bool retain);
void writeSubscribe(const vestibule::Device& device, const char* topic);
void writeJoin(const vestibule::Device& device);
void writeStore(const vestibule::Device& device);
/// Takes the status line that waits.
void writeLine(vestibule::Device& device);
void writeSay(const vestibule::Device& device, char character);
void writeCredentials(const vestibule::Device& device, bool reset);

}  // namespace host

#endif
