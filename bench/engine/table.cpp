#include "bench/engine/table.h"

#include <algorithm>
#include <cstdio>
#include <cstdlib>

#include "bench/engine/targets.h"

namespace dimhem::bench {

namespace {

// "renderAll/mixed/percent:5/iterations:5/manual_time" -> "renderAll/mixed/percent:5"
std::string figureOf(const benchmark::BenchmarkReporter::Run& run) {
    std::string name = run.run_name.function_name;
    return run.run_name.args.empty() ? name : name + "/" + run.run_name.args;
}

double counterOf(const benchmark::BenchmarkReporter::Run& run, std::string_view name, double otherwise) {
    const auto found = run.counters.find(std::string(name));
    return found == run.counters.end() ? otherwise : found->second.value;
}

const Target* targetOf(std::string_view figure) {
    const auto found = std::ranges::find(targets(), figure, &Target::figure);
    return found == targets().end() ? nullptr : &*found;
}

}  // namespace

void Table::ReportRuns(const std::vector<Run>& runs) {
    for (const Run& run : runs) {
        if (run.run_type != Run::RT_Iteration) continue;
        runs_.push_back(run);
        std::fprintf(stderr, "%s\n", figureOf(run).c_str());
    }
}

void Table::Finalize() {
    std::printf("\n%-52s %9s %9s %-10s %-6s %9s %9s %8s %8s\n", "figure", "target", "measured", "in", "", "median ms",
                "p95 ms", "faults", "misses k");
    for (const Run& run : runs_) {
        const std::string figure = figureOf(run);
        const Target* target = targetOf(figure);
        const std::string counter(target ? target->counter : counterOf(run, "x_copy", -1) < 0 ? "peak_MB" : "x_copy");
        const double value = counterOf(run, counter, -1);
        const bool reached = target && (target->atLeast ? value >= target->value : value <= target->value);
        const std::string label = run.report_label.empty() ? figure : figure + " " + run.report_label;
        std::printf("%-52s ", label.c_str());
        if (target) {
            std::printf("%9.3g ", target->value);
        } else {
            std::printf("%9s ", "");
        }
        std::printf("%9.3g %-10s %-6s %9.3g %9.3g %8.0f %8.0f\n", value, counter.c_str(),
                    !target   ? ""
                    : reached ? "pass"
                              : "short",
                    counterOf(run, "median_ms", 0), counterOf(run, "p95_ms", 0), counterOf(run, "faults", 0),
                    counterOf(run, "misses", 0));
    }
}

}  // namespace dimhem::bench
