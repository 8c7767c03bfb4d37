package pantry.desktop.reach;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import pantry.base.Png;
import pantry.desktop.session.LatestWork;
import pantry.desktop.session.Session;
import pantry.project.Imagined;
import pantry.project.Reach;
import pantry.project.RipplePictures;
import pantry.project.RippleReport;
import pantry.project.WhatIf;

/** A scene before and after a change that is only imagined, and the report about all of them. */
public final class RippleModel {
    private static final int WIDTH = 560;

    private final Session session;
    private final ReadOnlyObjectProperty<KnownProjects> known;
    private final ReadOnlyObjectProperty<Planned> planned;
    private final LatestWork drawing;
    private final ReadOnlyObjectWrapper<Optional<Pictured>> pictured = new ReadOnlyObjectWrapper<>(Optional.empty());

    /**
     * A scene before and after.
     *
     * @param views empty until they are drawn
     */
    public record Pictured(Path file, Imagined change, List<Shown> views) {
        public Pictured {
            views = List.copyOf(views);
        }
    }

    /**
     * A scene from one place, as PNGs.
     *
     * @param name the focus; empty for a view of the whole
     * @param changed the share of the pixels that differ, 0 to 1
     */
    public record Shown(String name, byte[] before, byte[] after, byte[] marked, double changed) {
        static Shown of(RipplePictures.View view) {
            return new Shown(
                    view.name(), Png.of(view.before()), Png.of(view.after()), Png.of(view.marked()), view.changed());
        }
    }

    RippleModel(Session session, ReadOnlyObjectProperty<KnownProjects> known, ReadOnlyObjectProperty<Planned> planned) {
        this.session = session;
        this.known = known;
        this.planned = planned;
        drawing = new LatestWork(session.background());
        planned.addListener(change -> {
            // Of another plan, the pictures say nothing.
            if (pictured.get().isPresent()
                    && !planned.get()
                            .ripple()
                            .map(WhatIf.Ripple::change)
                            .equals(pictured.get().map(Pictured::change))) {
                close();
            }
        });
    }

    /** What is shown in pictures. */
    public ReadOnlyObjectProperty<Optional<Pictured>> picturedProperty() {
        return pictured.getReadOnlyProperty();
    }

    /** Whether pictures are being drawn. */
    public boolean isPending() {
        return drawing.isPending();
    }

    /** Shows a scene before and after what is planned. */
    public void show(Path file) {
        Optional<Reach> reach = known.get().reach();
        Optional<WhatIf.Ripple> ripple = planned.get().ripple();
        if (reach.isEmpty() || ripple.isEmpty()) {
            return;
        }
        Imagined change = ripple.get().change();
        pictured.set(Optional.of(new Pictured(file, change, List.of())));
        drawing.answer(
                "drawing " + file.getFileName() + " before and after",
                progress ->
                        RipplePictures.of(
                                        reach.get(),
                                        change,
                                        file,
                                        WIDTH,
                                        session.workbench().renderCache())
                                .stream()
                                .map(Shown::of)
                                .toList(),
                views -> pictured.set(Optional.of(new Pictured(file, change, views))));
    }

    /** Shows no pictures any more. */
    public void close() {
        drawing.drop();
        pictured.set(Optional.empty());
    }

    /** Writes what is planned would do as a page or a table, by the file's ending. */
    public void report(Path file) {
        Optional<Reach> reach = known.get().reach();
        Optional<WhatIf.Ripple> ripple = planned.get().ripple();
        if (reach.isPresent() && ripple.isPresent()) {
            session.run(
                    "writing " + file.getFileName(),
                    progress -> {
                        new RippleReport(reach.get(), ripple.get())
                                .write(file, session.workbench().renderCache(), progress);
                        return file;
                    },
                    written -> session.told("wrote " + written));
        }
    }
}
