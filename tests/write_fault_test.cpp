// Writing that fails on the way, at every length it can fail at: the old file stands, and nothing else is
// left.
#include "exchange/export.hpp"
#include "exchange/tooth_outline.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <csignal>
#include <fstream>
#include <functional>
#include <sys/resource.h>
#include <unistd.h>

using namespace whorl;
namespace fs = std::filesystem;

namespace {

// While it lives no file grows beyond so many bytes, as on a full disk.
class FullDisk {
public:
    explicit FullDisk(rlim_t bytes) : handler_(std::signal(SIGXFSZ, SIG_IGN)) {
        getrlimit(RLIMIT_FSIZE, &before_);
        const rlimit limit{bytes, before_.rlim_max};
        setrlimit(RLIMIT_FSIZE, &limit);
    }
    ~FullDisk() {
        setrlimit(RLIMIT_FSIZE, &before_);
        std::signal(SIGXFSZ, handler_);
    }
    FullDisk(const FullDisk&) = delete;
    FullDisk& operator=(const FullDisk&) = delete;

private:
    rlimit before_{};
    void (*handler_)(int);
};

struct Folder {
    fs::path path = fs::temp_directory_path() / ("whorl-faults-" + std::to_string(::getpid()));
    Folder() { fs::create_directories(path); }
    ~Folder() { fs::remove_all(path); }
};

void fail_everywhere(const std::string& file, const std::function<void(const fs::path&)>& write) {
    const Folder folder;
    const fs::path target = folder.path / file, whole = folder.path / ("whole-" + file);
    write(whole);
    const std::string content = read_file(whole, 1u << 28), old = "what was there before";
    REQUIRE(content.size() > 100);
    fs::remove(whole);
    int failed = 0;
    for (int i = 0; i <= 24; ++i) {
        // none, some, all but a byte, just enough
        const auto room = i == 23   ? content.size() - 1
                          : i == 24 ? content.size()
                                    : content.size() * static_cast<std::size_t>(i) / 23;
        INFO(file << " with room for " << room << " of " << content.size() << " bytes");
        std::ofstream(target) << old;
        bool refused = false;
        {
            const FullDisk disk(room);
            try {
                write(target);
            } catch (const FileError& e) {
                refused = true;
                CHECK(std::string(e.what()).find(file) != std::string::npos); // says which file
            }
        }
        failed += refused;
        CHECK(read_file(target, 1u << 28) == (refused ? old : content));
        std::size_t files = 0;
        for (const auto& f : fs::directory_iterator(folder.path))
            (void)f, ++files;
        CHECK(files == 1);
    }
    CHECK(failed == 24);
}

} // namespace

TEST_CASE("a disk that fills up while a file is written costs no file") {
    const Piece piece = piece_of("gear m1 z12 b4");
    const Preview preview = make_preview(piece, 0, {}, LengthUnit::millimetre);
    const ResolvedZone& zone = preview.piece.zones[0];
    fail_everywhere("job.whorl", [&](const fs::path& p) { save_job(add_piece({}, piece), p); });
    fail_everywhere("gear.stl", [&](const fs::path& p) { write_stl(preview.mesh, "gear", p); });
    fail_everywhere("gear.dxf",
                    [&](const fs::path& p) { write_file_atomically(p, outline_dxf(zone, true)); });
    fail_everywhere("gear.svg",
                    [&](const fs::path& p) { write_file_atomically(p, outline_svg(zone, true)); });
}

TEST_CASE("a STEP file that can't be written whole is refused and leaves the old one") {
    const Folder folder;
    const fs::path target = folder.path / "gear.step";
    const Piece piece = piece_of("gear m1 z8 b4");
    const auto solid = make_verified_solid(make_preview(piece, 0, {}, LengthUnit::millimetre));
    // (its header carries the time, so its length may differ by a little from one writing to the next)
    write_step(*solid, piece, "n", LengthUnit::millimetre, target);
    const auto length = fs::file_size(target);
    for (const auto room : {std::uintmax_t{0}, std::uintmax_t{4096}, length / 2, length - 500}) {
        INFO("room for " << room << " of " << length);
        std::ofstream(target) << "what was there before";
        {
            const FullDisk disk(room);
            CHECK_THROWS_AS(write_step(*solid, piece, "n", LengthUnit::millimetre, target), FileError);
        }
        CHECK(read_file(target, 1000) == "what was there before");
        std::size_t files = 0;
        for (const auto& f : fs::directory_iterator(folder.path))
            (void)f, ++files;
        CHECK(files == 1);
    }
}
