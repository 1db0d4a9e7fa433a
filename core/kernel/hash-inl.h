// Numbers that look random and go by a place alone: pcg3d of Jarzynski and Olano, "Hash functions for GPU rendering",
// 2020, cited from memory. Included per target.
#if defined(DIMHEM_HASH_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef DIMHEM_HASH_INL
#undef DIMHEM_HASH_INL
#else
#define DIMHEM_HASH_INL
#endif

#include <hwy/highway.h>

#include <cstdint>

HWY_BEFORE_NAMESPACE();
namespace dimhem::kernel {
namespace HWY_NAMESPACE {

namespace hn = hwy::HWY_NAMESPACE;

template <class V>
struct Three {
    V x, y, z;
};

// Of the places (x, y), (x + 1, y) ... and a seed: three of 32 bits each.
template <class DU, class V = hn::Vec<DU>>
HWY_INLINE Three<V> Hashed(DU du, std::uint32_t x, std::uint32_t y, std::uint32_t seed) {
    const auto mixed = [&](V v)
                           HWY_ATTR { return hn::Add(hn::Mul(v, hn::Set(du, 1664525u)), hn::Set(du, 1013904223u)); };
    Three<V> h{mixed(hn::Iota(du, x)), mixed(hn::Set(du, y)), mixed(hn::Set(du, seed))};
    const auto turn = [&] HWY_ATTR {
        h.x = hn::Add(h.x, hn::Mul(h.y, h.z));
        h.y = hn::Add(h.y, hn::Mul(h.z, h.x));
        h.z = hn::Add(h.z, hn::Mul(h.x, h.y));
    };
    turn();
    h.x = hn::Xor(h.x, hn::ShiftRight<16>(h.x));
    h.y = hn::Xor(h.y, hn::ShiftRight<16>(h.y));
    h.z = hn::Xor(h.z, hn::ShiftRight<16>(h.z));
    turn();
    return h;
}

}  // namespace HWY_NAMESPACE
}  // namespace dimhem::kernel
HWY_AFTER_NAMESPACE();

#endif
