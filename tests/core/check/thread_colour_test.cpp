#include "core/check/thread_colour.h"

#include <gtest/gtest.h>

#include "core/colour/lab.h"

namespace dimhem::check {

namespace {

std::vector<Sample> flat(double r, double g, double b) {
    return {{colour::labFromEncoded({r, g, b}), 1.0}, {colour::labFromEncoded({r * 0.8, g * 0.8, b * 0.8}), 0.5}};
}

std::string_view chosen(const std::vector<Sample>& under, const std::vector<int>& taken = {}, int current = 0) {
    return colour::threadColours[static_cast<std::size_t>(chooseThreadColour(under, taken, current))].id;
}

}  // namespace

TEST(ThreadColour, NeverThatOfTheSubject) {
    EXPECT_NE(chosen(flat(0.35, 0.7, 0.9)), "sky-blue");
    EXPECT_NE(chosen(flat(0.9, 0.6, 0.1), {}, 1), "orange");
    EXPECT_NE(chosen(flat(0.95, 0.95, 0.95), {}, 7), "white");
}

TEST(ThreadColour, ThoseOfOtherCorrectionsAreLeftToThem) {
    const auto under = flat(0.1, 0.1, 0.1);
    const int best = chooseThreadColour(under, {}, 6);
    const std::vector<int> taken = {best};
    EXPECT_NE(chooseThreadColour(under, taken, 6), best);
}

TEST(ThreadColour, StaysWhileNoneIsClearlyBetter) {
    const auto under = flat(0.5, 0.5, 0.5);
    const int first = chooseThreadColour(under, {}, 0);
    EXPECT_EQ(chooseThreadColour(under, {}, first), first);
}

TEST(ThreadColour, WithoutAMaskNothingChanges) {
    EXPECT_EQ(chooseThreadColour({}, {}, 3), 3);
}

}  // namespace dimhem::check
