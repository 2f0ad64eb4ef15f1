#include "app/action_kit.hpp"
#include "app/forms/form_actions.hpp"

#include "app/designation_line.hpp"
#include "app/drawing_actions.hpp"
#include "app/section_view.hpp"
#include "app/solid_view.hpp"
#include "app/spec_sheet.hpp"
#include "app/theme.hpp"
#include "app/together_actions.hpp"
#include "app/together_view.hpp"
#include "app/zone_strip.hpp"
#include "model/forms/common_rows.hpp"
#include "model/forms/forms.hpp"
#include "model/row.hpp"

#include <QMenu>
#include <algorithm>

namespace whorl::app {
namespace {

// --- when an action means something ---

// A spring or a rack is the whole piece: it takes no other zones and no bores.
QString not_alone(const Window& w) {
    const Zone* z = zone_of(w);
    return z ? unless(!stands_alone(*z), "A spring or a rack is the whole piece; it takes no other zone.")
             : QString(no_piece);
}

// --- what they do ---

void step_piece(Window& w, std::size_t to) {
    Session& s = w.session();
    if (to < s.job().pieces.size()) s.select(to, s.telling_zone(to));
}

void flip_hand(Window& w) {
    const Zone* z = zone_of(w);
    if (!z || !row_of(*z, field::hand)) return;
    w.session().edit(field::hand, w.session().text_of(field::hand) == "left" ? "right" : "left");
}

void make_remedy(Window& w) {
    const auto& found = w.session().findings();
    if (!found.empty() && found.front().remedy) w.session().apply_remedy(*found.front().remedy);
}

void to_counterpart(Window& w) {
    Session& s = w.session();
    if (const auto& fit = s.fit()) return s.select(fit->there.piece, fit->there.zone);
    if (const auto& mesh = s.mesh()) return s.select_pair(mesh->pair, mesh->there);
    if (const auto& other = s.other_of_pair()) s.select(other->piece, other->zone);
}

void look(Window& w, Look l) {
    w.together_shown() ? w.together()->look(l) : w.solid()->look(l);
}

void list_recent(QMenu& menu, Window& w) {
    for (const QString& file : w.recent())
        menu.addAction(file, &w, [&w, file] {
            if (w.may_leave()) w.open(file);
        });
}

// --- the menus ---

std::vector<Action> job_menu() {
    return {
        {.text = "New job",
         .keys = QKeySequence::New,
         .does =
             [](Window& w) {
                 if (w.may_leave()) w.session().new_job();
             }},
        {.text = "Open…", .keys = QKeySequence::Open, .does = [](Window& w) { w.ask_open(); }},
        {.text = "Open recent",
         .why_not = [](const Window& w) { return unless(!w.recent().isEmpty(), "No job was opened yet."); },
         .fill = list_recent},
        {.text = "Save",
         .keys = QKeySequence::Save,
         .does =
             [](Window& w) { w.session().path().isEmpty() ? w.ask_save() : w.save_to(w.session().path()); },
         .begins_group = true},
        {.text = "Save as…", .keys = QKeySequence("Ctrl+Shift+S"), .does = [](Window& w) { w.ask_save(); }},
        {.text = "Hand on… (STEP, STL, 3MF, glTF, SVG, DXF, CSV)",
         .keys = QKeySequence("Ctrl+E"),
         .does = [](Window& w) { w.show_hand_on(true); },
         .why_not = needs_piece,
         .begins_group = true},
        {.text = "Export the piece under a name of its own…",
         .keys = QKeySequence("Ctrl+Alt+E"),
         .does = [](Window& w) { w.ask_export(); },
         .why_not = needs_piece},
        {.text = "Quit",
         .keys = QKeySequence::Quit,
         .does = [](Window& w) { w.close(); },
         .begins_group = true},
    };
}

std::vector<Action> edit_menu() {
    return {
        {.text = "Undo",
         .keys = QKeySequence::Undo,
         .does = [](Window& w) { w.session().undo(); },
         .why_not =
             [](const Window& w) { return unless(w.session().can_undo(), "Nothing was changed yet."); }},
        {.text = "Redo",
         .keys = QKeySequence("Ctrl+Shift+Z"),
         .does = [](Window& w) { w.session().redo(); },
         .why_not = [](const Window& w) { return unless(w.session().can_redo(), "Nothing was undone."); }},
        {.text = "Designation line",
         .keys = QKeySequence("Ctrl+L"),
         .does = [](Window& w) { w.designation()->setFocus(Qt::ShortcutFocusReason); },
         .begins_group = true},
        {.text = "Edit the pitch in the section",
         .keys = QKeySequence("Ctrl+P"),
         .does = [](Window& w) { w.section()->edit_field(field::pitch); }},
        {.text = "Edit the spec sheet",
         .keys = QKeySequence("Ctrl+D"),
         .does = [](Window& w) { w.sheet()->edit_field(field::diameter); }},
        {.text = "Flip the hand",
         .keys = QKeySequence("Ctrl+H"),
         .does = flip_hand,
         .why_not =
             [](const Window& w) {
                 const ResolvedZone* z = resolved(w);
                 return unless(z && !z->as<ResolvedPlain>(), "A plain zone has no hand.");
             }},
        {.text = "Make the remedy",
         .keys = QKeySequence("Ctrl+R"),
         .does = make_remedy,
         .why_not =
             [](const Window& w) {
                 const auto& found = w.session().findings();
                 if (found.empty()) return QString("Every check holds.");
                 return unless(found.front().remedy.has_value(),
                               "The first finding has no remedy of its own.");
             }},
        {.text = "Switch millimetre and inch",
         .keys = QKeySequence("Ctrl+U"),
         .does =
             [](Window& w) {
                 Session& s = w.session();
                 s.set_unit(s.unit() == LengthUnit::inch ? LengthUnit::millimetre : LengthUnit::inch);
             }},
    };
}

std::vector<Action> pieces_and_zones() {
    return {
        {.text = "New piece",
         .keys = QKeySequence("Ctrl+Shift+N"),
         .does = [](Window& w) { w.ask_for_new_piece(); }},
        {.text = "Find a spring for loads", .does = [](Window& w) { w.ask_for_spring(); }},
        {.text = "Next piece",
         .keys = QKeySequence("Ctrl+PgDown"),
         .does = [](Window& w) { step_piece(w, w.session().piece() + 1); }},
        {.text = "Previous piece",
         .keys = QKeySequence("Ctrl+PgUp"),
         .does = [](Window& w) { step_piece(w, w.session().piece() - 1); }},
        {.text = "Remove piece",
         .keys = QKeySequence("Ctrl+Shift+Delete"),
         .does =
             [](Window& w) {
                 w.session().change([p = w.session().piece()](const Job& j) { return remove_piece(j, p); });
             },
         .why_not = needs_piece},
        {.text = "Add a zone at the far end",
         .keys = QKeySequence(Qt::Key_Insert),
         .does = [](Window& w) { w.strip()->add_zone(); },
         .why_not = not_alone,
         .begins_group = true},
        {.text = "Split the zone in two",
         .keys = QKeySequence("Ctrl+T"),
         .does =
             [](Window& w) {
                 const std::size_t p = w.session().piece(), z = w.session().zone();
                 if (w.session().has_piece())
                     w.session().change([=](const Job& j) { return split_zone(j, p, z); });
             },
         .why_not = not_alone},
        {.text = "Bore from the near end",
         .keys = QKeySequence("Ctrl+B"),
         .does = [](Window& w) { w.strip()->add_bore(Where::near_bore); },
         .why_not = not_alone},
        {.text = "Bore from the far end",
         .keys = QKeySequence("Ctrl+Shift+B"),
         .does = [](Window& w) { w.strip()->add_bore(Where::far_bore); },
         .why_not = not_alone},
        {.text = "Hole for a screw at the near end…",
         .keys = QKeySequence("Ctrl+Alt+B"),
         .does = [](Window& w) { w.designation()->ask_for_hole(false); },
         .why_not = not_alone},
        {.text = "Hole for a screw at the far end…",
         .keys = QKeySequence("Ctrl+Alt+Shift+B"),
         .does = [](Window& w) { w.designation()->ask_for_hole(true); },
         .why_not = not_alone},
        {.text = "Make the counterpart",
         .keys = QKeySequence("Ctrl+K"),
         .does = [](Window& w) { w.make_counterpart(add_counterpart); },
         .why_not =
             [](const Window& w) {
                 const Zone* z = zone_of(w);
                 return unless(z && with_model(*z, [&]<class M>(M) { return M::has_counterpart(*z); }),
                               "A thread, teeth, a spline, a cam, a U and a grooved bore have a counterpart; "
                               "select one.");
             }},
        {.text = "Go to the counterpart",
         .keys = QKeySequence("Ctrl+J"),
         .does = to_counterpart,
         .why_not =
             [](const Window& w) {
                 const Session& s = w.session();
                 return unless(s.fit() || s.mesh() || s.other_of_pair(),
                               "The zone is in no pair; Ctrl+K makes its counterpart.");
             }},
    };
}

// What is done to zones of one form stands between, each in that form's room.
std::vector<Action> piece_menu() {
    std::vector<Action> out = pieces_and_zones();
    for (const auto& of_form : {gear_actions, silhouette_actions, lobe_actions, coil_actions, thread_actions})
        for (Action& a : of_form())
            out.push_back(std::move(a));
    out.push_back({.text = "Import a section, timing or silhouette… (DXF, SVG, CSV)",
                   .keys = QKeySequence("Ctrl+I"),
                   .does = [](Window& w) { w.ask_section(); }});
    out.push_back({.text = "Remove the zone",
                   .keys = QKeySequence("Ctrl+Shift+Backspace"),
                   .does =
                       [](Window& w) {
                           const std::size_t p = w.session().piece(), z = w.session().zone();
                           if (w.session().has_piece())
                               change(w, [=](const Job& j) { return remove_zone(j, p, z); });
                       },
                   .why_not =
                       [](const Window& w) {
                           const Piece* p = piece_of(w);
                           return unless(p && p->zones.size() > 1,
                                         "It is the piece's only zone; remove the piece instead.");
                       },
                   .begins_group = true});
    return out;
}

std::vector<Action> view_menu() {
    return {
        {.text = "Side", .keys = QKeySequence("F2"), .does = [](Window& w) { look(w, Look::side); }},
        {.text = "End", .keys = QKeySequence("F3"), .does = [](Window& w) { look(w, Look::end); }},
        {.text = "Oblique", .keys = QKeySequence("F4"), .does = [](Window& w) { look(w, Look::oblique); }},
        {.text = "Cut lengthwise",
         .keys = QKeySequence("F5"),
         .does =
             [](Window& w) {
                 w.together_shown() ? w.together()->set_cut(!w.together()->cut())
                                    : w.solid()->set_cut(!w.solid()->cut());
             },
         .on = [](const Window& w) { return w.together_shown() ? w.together()->cut() : w.solid()->cut(); }},
        {.text = "Turn the cut by 15°",
         .keys = QKeySequence("F6"),
         .does =
             [](Window& w) { w.together_shown() ? w.together()->turn_cut(15) : w.solid()->turn_cut(15); }},
        {.text = "With the counterpart",
         .keys = QKeySequence("F7"),
         .does = [](Window& w) { w.solid()->set_together(!w.solid()->together()); },
         .on = [](const Window& w) { return w.solid()->together(); }},
        {.text = "Run gears or cam",
         .keys = QKeySequence("F8"),
         .does = [](Window& w) { w.session().set_running(!w.session().running()); },
         .why_not =
             [](const Window& w) {
                 const ResolvedZone* z = resolved(w);
                 return unless(
                     z && (z->as<ResolvedWheel>() || z->motion() || (z->rack() && w.session().mesh())),
                     "Select a gear, a rack in mesh or a cam for it.");
             },
         .on = [](const Window& w) { return w.session().running(); }},
        {.text = "Dark theme",
         .keys = QKeySequence("F9"),
         .does = [](Window& w) { w.set_dark(!theme().dark); },
         .on = [](const Window&) { return theme().dark; },
         .begins_group = true},
    };
}

std::vector<Action> help_menu() {
    return {
        {.text = "Keys", .keys = QKeySequence("F1"), .does = [](Window& w) { w.show_keys(); }},
        {.text = "About Regular Whorl",
         .does =
             [](Window& w) {
                 w.checks()->say(
                     "Regular Whorl 0.1: threads, springs, cams and gears from standard "
                     "specifications to correct solids. Licence GPL-3.0-or-later; typeface Inter, "
                     "SIL OFL 1.1.",
                     false);
             }},
    };
}

} // namespace

const std::vector<MenuOfActions>& menus() {
    static const std::vector<MenuOfActions> all{{"&Job", job_menu()},
                                                {"&Edit", edit_menu()},
                                                {"&Piece", piece_menu()},
                                                {"&View", view_menu()},
                                                {"&Together", together_actions()},
                                                {"&Drawing", drawing_actions()},
                                                {"&Help", help_menu()}};
    return all;
}

QString listed_keys() {
    QString out = "<table cellspacing='0' cellpadding='2'>";
    const auto line = [&](const QString& key, const QString& what) {
        out += "<tr><td><b>" + key.toHtmlEscaped() + "</b>&nbsp;&nbsp;&nbsp;</td><td>" +
               what.toHtmlEscaped() + "</td></tr>";
    };
    const auto title = [&](const QString& text) {
        out += "<tr><td colspan='2' style='padding-top:10px'>" + text + "</td></tr>";
    };
    for (const MenuOfActions& m : menus()) {
        title(QString(m.title).remove('&'));
        for (const Action& a : m.actions)
            if (!a.keys.isEmpty()) line(a.keys.toString(), a.text);
    }
    title("With the mouse on the solid");
    line("drag", "rolls and tilts");
    line("right drag", "swings");
    line("middle drag", "pans");
    line("wheel", "comes nearer and goes away");
    title("Where all stand together");
    line("click", "goes to the piece; twice, to its views");
    line("drag what is selected", "moves it on what it stands by, or freely; Shift finer");
    line("Ctrl drag", "turns the cut, up and down moves it");
    line("Enter", "types where it stands");
    title("On the drawing");
    line("click", "types over a dimension or a field of the title block");
    line("drag", "moves a dimension or note; beside them the sheet");
    line("arrows", "move what was touched last; Shift finer");
    line("Delete", "takes it off; the right button's menu brings all back");
    line("0", "the whole sheet");
    return out + "</table>";
}

} // namespace whorl::app
