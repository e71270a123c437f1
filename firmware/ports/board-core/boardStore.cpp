#include "settings.h"

#include VESTIBULE_CORE_HEADER
#include VESTIBULE_STORE_HEADER

#include "controller.h"
#include "image.h"
#include "paired.h"

namespace core {

// Two records of what is stored, so that a cut at any byte leaves the old or the new; and what the board was paired
// with.
constexpr size_t STORE_BYTES =
    VESTIBULE_STORE_AT + 2 * vestibule::recordBytes(image::CHANNEL_COUNT) + vestibule::pairing::STORED_BYTES + 4;

Store boardStore() {
  VESTIBULE_STORE_BEGIN(STORE_BYTES);
  return {[](size_t at) -> uint8_t { return VESTIBULE_STORE_READ(static_cast<int>(at)); },
          [](size_t at, uint8_t value) { VESTIBULE_STORE_WRITE(static_cast<int>(at), value); },
          []() { VESTIBULE_STORE_COMMIT(); }};
}

}  // namespace core
