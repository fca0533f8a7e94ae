// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/exit_codes.h"
#include "core/explain/working.h"
#include "results/results.h"
#include "store/files.h"
#include "store/project_json.h"

#include <fmt/printf.h>

#include <functional>

namespace cli {

struct Options {
    std::string project;
    std::string revision; ///< empty: the baseline's newest descendant is not guessed, the last revision is taken
    std::string load;
    std::string run;
    std::string output;
    bool json = false;
    std::vector<std::string> units; ///< of what is said: "inch", "f", "cfm"; the figures of --json keep their own
    bool fitPage = false;           ///< sections: fitted to the sheet instead of true size
    std::string sheet;              ///< sections: "own", "A4" or "A3"; empty: own, fitted A4
    double scale = 0;               ///< sections: 0 is true size, or what fits with @c fitPage
    bool network = false, schools = false, explore = false, calibrate = false; ///< air
    double transientMinutes = 0;                                               ///< air: played so long
    std::vector<std::string> open, keep;                                       ///< air --explore
    std::string curves;                                                        ///< air --explore: file to write
    long seed = 7, most = 0;                                                   ///< air --explore; 0: as usual
    std::string what; ///< schema: "project", "shelf" or "tables"
    // start
    std::vector<std::string> sizes; ///< "KEY=MM"
    std::string way, parts;
    // import
    std::string log, name;
    std::vector<std::string> subjects; ///< "COLUMN=MOUNT"
    double room = 1e9;
    bool readTheRest = false;
    bool force = false; ///< a file that is there may be overwritten, another project replaced
    // capture
    std::string source;
    std::vector<std::string> sourceArguments;
    double seconds = 0;
};

/// Says a problem on standard error; answers ExitBadInput.
int badInput(const core::Problem& problem);

/// The project of the options, its warnings already said.
[[nodiscard]] core::Result<core::Project> load(const Options& options);
/// The same for who only looks.
[[nodiscard]] core::Result<std::shared_ptr<const core::Project>> loadToLook(const Options& options);
/// The revision asked for, else the last one.
[[nodiscard]] core::Result<std::string> revisionOf(const Options& options, const core::Project& project);
/// What fit and air start from: the project, the revision asked for, and all that is computed of it.
struct Asked {
    std::shared_ptr<const results::Look> look;
    std::string revision;
    [[nodiscard]] const core::Project& project() const { return *look->project; }
    [[nodiscard]] const core::stages::Evaluation& evaluation() const { return *look->evaluation; }
};
/// Errors: as load() and revisionOf(), an unknown --load, a revision that does not resolve.
[[nodiscard]] core::Result<Asked> look(const Options& options);
/// Who the answer is for: the units asked for, and the currency of the project.
[[nodiscard]] core::Reader readerOf(const Options& options, const core::Project& project);
/// null where there is no number.
[[nodiscard]] store::Json finite(double value);
void print(const store::Json& json);
/// Text for standard output, control characters made visible; the same in every locale.
void put(const std::string& text);
/// As printf, compiled once.
void putFormatted(fmt::string_view format, fmt::printf_args arguments);
template <class... Arguments> void say(const char* format, const Arguments&... arguments) {
    putFormatted(format, fmt::make_printf_args(arguments...));
}
/// A line in the reader's units.
inline void sayTo(const core::Reader& reader, const core::Sentence& line) { put(reader.text(line) + "\n"); }
/// A note on standard error.
void note(const std::string& text);
/// Whether all that was said arrived: a full disk behind standard output is an error like any other.
[[nodiscard]] int finished(int code);
/// How a file of ours is written here.
[[nodiscard]] inline store::Overwrite overwrite(const Options& options) {
    return options.force ? store::Overwrite::Replace : store::Overwrite::Refuse;
}

int fit(const Options& options);
int air(const Options& options);
int bench(const Options& options);
int verdict(const Options& options);
int report(const Options& options);
int importLog(const Options& options);
int exportFolder(const Options& options);
int sections(const Options& options);
int schema(const Options& options);
int capture(const Options& options);
int start(const Options& options);

/// Findings as every command prints them: those in their order; @p counts picks those the command is about, whose
/// blockers decide what it ends with.
store::Json findingsJson(const std::vector<core::rules::Finding>& findings, const core::Reader& reader,
                         const std::function<bool(const core::rules::Finding&)>& counts);
void sayFindings(const store::Json& findings);

} // namespace cli
