// Writing that fails on the way, at every length it can fail at: the old file stands, and nothing else is
// left.
#include "exchange/export.hpp"
#include "exchange/form_file.hpp"
#include "model/starter.hpp"

#include <catch2/catch.hpp>
#include <csignal>
#include <fstream>
#include <functional>
#include <sys/resource.h>
#include <sys/stat.h>
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
                    [&](const fs::path& p) { write_file_atomically(p, file_of(zone).dxf(zone, false)); });
    fail_everywhere("gear.svg", [&](const fs::path& p) {
        write_file_atomically(p, file_of(zone).svg(zone, LengthUnit::millimetre, false));
    });
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

TEST_CASE("new files have the process's permissions, old ones keep theirs") {
    const Folder folder;
    const mode_t before = ::umask(077);
    write_file_atomically(folder.path / "new", "x");
    ::umask(before);
    CHECK((fs::status(folder.path / "new").permissions() & fs::perms::mask) ==
          (fs::perms::owner_read | fs::perms::owner_write));
    const fs::perms odd = fs::perms::owner_read | fs::perms::owner_write | fs::perms::group_read;
    fs::permissions(folder.path / "new", odd);
    write_file_atomically(folder.path / "new", "y");
    CHECK((fs::status(folder.path / "new").permissions() & fs::perms::mask) == odd);
}

TEST_CASE("a link is written through, also to a file that is not there yet") {
    const Folder folder;
    fs::create_directories(folder.path / "real");
    fs::create_symlink("real/target", folder.path / "link");
    write_file_atomically(folder.path / "link", "first");
    write_file_atomically(folder.path / "link", "second");
    CHECK(fs::is_symlink(folder.path / "link"));
    CHECK(read_file(folder.path / "real" / "target", 100) == "second");
    fs::create_symlink("b", folder.path / "a");
    fs::create_symlink("a", folder.path / "b");
    CHECK_THROWS_AS(write_file_atomically(folder.path / "a", "x"), FileError);
}

TEST_CASE("a name as long as a folder bears is written, and what others have left is cleared") {
    const Folder own;
    const fs::path folder = own.path / "written once"; // a process looks for leftovers once a folder
    fs::create_directories(folder);
    const fs::path left = folder / ".part-999999999-1",
                   ours = folder / (".part-" + std::to_string(::getpid()) + "-0"),
                   other = folder / ".part-notes";
    for (const fs::path& p : {left, ours, other})
        std::ofstream(p) << "left";
    const fs::path longest = folder / std::string(255, 'n');
    write_file_atomically(longest, "content");
    CHECK(read_file(longest, 100) == "content");
    CHECK(!fs::exists(left));
    CHECK(fs::exists(ours));  // its process lives
    CHECK(fs::exists(other)); // none of ours
}

TEST_CASE("no two pieces share a file name, and made-up ones are nobody else's") {
    CHECK(file_stems({"a", "a", "a-2"}) == std::vector<std::string>{"a", "a-3", "a-2"});
    CHECK(file_stems({"a", "a", "a"}) == std::vector<std::string>{"a", "a-2", "a-3"});
    CHECK(file_stems({"a-2", "a", "a"}) == std::vector<std::string>{"a-2", "a", "a-3"});
    CHECK(file_stems({"", "!"}) == std::vector<std::string>{"piece", "piece-2"});
    CHECK(file_stem("Größe 3–4 «Ω»") == "Größe-3-4-Ω");
    CHECK(file_stem("歯車 12") == "歯車-12");
    CHECK(file_stem(std::string(300, 'x')).size() == 200);
}

TEST_CASE("names of other scripts come back from a STEP file, which itself is plain ASCII") {
    const Folder folder;
    Piece piece = piece_of("round 6 x 4");
    piece.name = "Stiftschraube Größe 歯車 𝛼 it's";
    const fs::path path = folder.path / "name.step";
    write_step(*make_verified_solid(make_preview(piece, 0, {}, LengthUnit::millimetre)), piece, piece.name,
               LengthUnit::millimetre, path);
    for (const char c : read_file(path, 1u << 24))
        REQUIRE(static_cast<unsigned char>(c) < 0x80);
    CHECK(read_step(path).name == piece.name);
}
