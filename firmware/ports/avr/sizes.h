// What the port must know of the image: sizes, and whether there is a receiver at all.
#ifndef VESTIBULE_AVR_SIZES_H
#define VESTIBULE_AVR_SIZES_H

#include "expander.h"
#include "image.h"

namespace board {

constexpr size_t RECORD_BYTES = vestibule::recordBytes(image::CHANNEL_COUNT);

static_assert(!image::HAS_EXPANDER || EXPANDER_DRIVEN,
              "channels or inputs hang on an expander: fill in expander.cpp for it, and say so in expander.h");
// its only serial port in hardware
static_assert(image::BAUD == 0 || ((image::LINE_SENDS == 1 || image::LINE_SENDS == vestibule::NO_PIN) &&
                                   (image::LINE_HEARS == 0 || image::LINE_HEARS == vestibule::NO_PIN)),
              "the serial link of this board is on D1 (sends) and D0 (hears): plan its part there");
#ifdef VESTIBULE_MODEM
static_assert(image::BAUD == 0, "a modem has the only serial port: no serial link beside it");
static_assert(image::LINK_COUNT == 1, "a modem keeps one connection: the house's broker or one service");
#endif
static_assert(2 * RECORD_BYTES <= 1024, "two records do not fit into the board's store: fewer channels");

}  // namespace board

#endif
