// The outcome of a run as one table: each figure beside what it is to reach.
#pragma once

#include <benchmark/benchmark.h>

#include <string>
#include <vector>

namespace dimhem::bench {

class Table final : public benchmark::BenchmarkReporter {
public:
    bool ReportContext(const Context&) override { return true; }
    void ReportRuns(const std::vector<Run>& runs) override;
    void Finalize() override;

private:
    std::vector<Run> runs_;
};

}  // namespace dimhem::bench
