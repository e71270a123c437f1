#include "vestibule.h"

namespace vestibule {

// Lit and dark in turn, ms: core/device/light.ts has the same.
bool isLit(Light light, uint32_t nowMs) {
  switch (light) {
    case Light::off: return false;
    case Light::up: return true;
    case Light::joining: return nowMs % 1000 < 500;
    case Light::refused: return nowMs % 200 < 100;
    case Light::pairing: {
      const uint32_t at = nowMs % 1000;
      return at < 100 || (at >= 200 && at < 300);
    }
  }
  return false;
}

}  // namespace vestibule
