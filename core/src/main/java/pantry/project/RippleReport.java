package pantry.project;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import pantry.base.HtmlPage;
import pantry.base.Png;
import pantry.base.Progress;
import pantry.base.ReportFile;
import pantry.base.ReportTable;
import pantry.compare.Comparison;
import pantry.render.RenderCache;
import pantry.usd.UsdException;

/** What a change would do, for keeping: as a page with pictures, or as a table. */
public final class RippleReport {
    private static final int PICTURE = 420;

    private final Reach reach;
    private final WhatIf.Ripple ripple;

    public RippleReport(Reach reach, WhatIf.Ripple ripple) {
        this.reach = reach;
        this.ripple = ripple;
    }

    /** In one line. */
    public static String line(WhatIf.Ripple ripple) {
        int scenes = ripple.effects().size();
        return scenes == 0
                ? "no scene changes"
                : counted(scenes, "scene") + ", " + counted(ripple.placements(), "placement") + ", "
                        + (ripple.lost() == 0
                                ? "nothing loses its target"
                                : counted(ripple.lost(), "override or choice") + " lost")
                        + (ripple.overlaps() == 0
                                ? ""
                                : ", " + counted(ripple.overlaps(), "thing") + " newly in something else");
    }

    private static String counted(long count, String word) {
        return String.format(Locale.ROOT, "%,d ", count).replace(',', '\u202f')
                + (word.equals("override or choice")
                        ? count == 1 ? "override or choice is" : "overrides or choices are"
                        : count == 1 ? word : word + "s");
    }

    /**
     * Writes the report, as CSV or as HTML by the file's ending.
     *
     * @throws pantry.base.PantryException where it cannot be written, or the ending is another
     */
    public void write(Path file, RenderCache cache, Progress progress) {
        ReportFile.write(file, () -> table().csv(), () -> html(cache, progress));
    }

    private ReportTable table() {
        ReportTable table = new ReportTable(List.of(
                ReportTable.Column.text("Scene"),
                ReportTable.Column.figures("Placements"),
                ReportTable.Column.figures("Triangles drawn"),
                ReportTable.Column.figures("Then"),
                ReportTable.Column.figures("Grows by (m)"),
                ReportTable.Column.text("Would lose its target"),
                ReportTable.Column.text("Likely now"),
                ReportTable.Column.text("Would stand in something else"),
                ReportTable.Column.text("Problem")));
        for (WhatIf.Effect effect : ripple.effects()) {
            Object[] cells = {
                effect.file(),
                effect.placements(),
                effect.before().trianglesDrawn(),
                effect.after().trianglesDrawn(),
                String.format(Locale.ROOT, "%.3f", effect.growth()),
                joined(effect.lost().stream()
                        .map(lost -> (lost.path() + " " + lost.detail()).strip())
                        .toList()),
                joined(effect.lost().stream()
                        .map(lost -> lost.likely().isEmpty()
                                ? "-"
                                : lost.likely().getFirst().toString())
                        .toList()),
                joined(effect.overlaps().stream()
                        .map(overlap -> String.format(
                                Locale.ROOT, "%s %.3f m deep in %s", overlap.thing(), overlap.depth(), overlap.other()))
                        .toList()),
                effect.problem()
            };
            if (effect.lost().isEmpty()
                    && effect.overlaps().isEmpty()
                    && effect.problem().isEmpty()) {
                table.add(cells);
            } else {
                table.addMarked(cells);
            }
        }
        return table;
    }

    private static String joined(List<String> lines) {
        return String.join("; ", lines);
    }

    private String html(RenderCache cache, Progress progress) {
        HtmlPage page = new HtmlPage("If " + ripple.change().words());
        page.paragraph(line(ripple) + ".");
        ripple.comparison().ifPresent(comparison -> page.heading("What changes in the asset")
                .table(changes(comparison)));
        page.heading("Scenes").table(table());
        int done = 0;
        for (WhatIf.Effect effect : ripple.effects()) {
            progress.step(
                    "taking pictures of " + effect.file(),
                    (double) done++ / ripple.effects().size());
            page.heading(String.valueOf(effect.file().getFileName()));
            try {
                for (RipplePictures.View view :
                        RipplePictures.of(reach, ripple.change(), effect.file(), PICTURE, cache)) {
                    String of = view.name().isEmpty() ? "" : view.name() + ": ";
                    page.picture(Png.of(view.before()), of + "now");
                    page.picture(Png.of(view.after()), of + "then");
                    page.picture(
                            Png.of(view.marked()),
                            String.format(Locale.ROOT, "%.1f %% of the picture differs", 100 * view.changed()));
                }
            } catch (UsdException e) {
                page.paragraph(e.line());
            }
        }
        return page.text();
    }

    private static ReportTable changes(Comparison comparison) {
        ReportTable table = new ReportTable(List.of(
                ReportTable.Column.text("What"), ReportTable.Column.text("Name"), ReportTable.Column.text("Detail")));
        comparison
                .objects()
                .forEach(object -> table.add(
                        joined(object.what().stream()
                                .map(Comparison.ChangeKind::word)
                                .toList()),
                        object.path(),
                        object.detail()));
        comparison
                .materials()
                .forEach(named -> table.add("material " + named.what().word(), named.name(), named.detail()));
        comparison
                .variants()
                .forEach(named -> table.add("variant " + named.what().word(), named.name(), named.detail()));
        return table;
    }
}
