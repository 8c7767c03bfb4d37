package pantry.desktop.app;

import java.awt.image.BufferedImage;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BooleanSupplier;
import javafx.animation.AnimationTimer;
import javafx.scene.Scene;
import javafx.scene.image.PixelReader;
import javafx.scene.image.WritableImage;
import javafx.scene.robot.Robot;
import javax.imageio.ImageIO;
import pantry.base.PantryException;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.frame.FrameView;
import pantry.desktop.frame.Workplace;
import pantry.desktop.look.Look;
import pantry.desktop.prep.PrepView;
import pantry.desktop.receive.Arrival;
import pantry.desktop.shelves.ShelvesView;

/** Visits every main view of the demo, puts a picture of each into a folder, and ends the application. */
final class Tour {
    /** Frames that a view is given to come to rest once it says that it has. */
    private static final int RESTING_FRAMES = 24;

    private static final int LONGEST_FRAMES = 60 * 60;

    private static final Set<String> LINED_UP =
            Set.of("Living module", "Snow tractor", "Dome hut", "Radome on plinth", "Tripod mast 3 m", "Fuel drum");

    private static final String RACK = "battery-rack";

    private static final String MAST = "tripod-mast-millimetres.obj";

    private final PantryApp.Parts parts;
    private final Scene scene;
    private final Path folder;
    private final Runnable end;
    private final Deque<Stop> stops = new ArrayDeque<>();
    private Optional<Stop> current = Optional.empty();
    private int rested;
    private int waited;

    /** A view: how to get there, and when it is there. */
    private record Stop(String name, Runnable go, BooleanSupplier there) {}

    Tour(PantryApp.Parts parts, Scene scene, List<Path> arrivals, Path folder, Runnable end) {
        this.parts = parts;
        this.scene = scene;
        this.folder = folder;
        this.end = end;
        FrameView frame = parts.frame();
        BooleanSupplier quiet = () -> parts.session().jobs().isEmpty();
        add(
                "shelves",
                () -> frame.go(Workplace.SHELVES),
                () -> quiet.getAsBoolean() && parts.shelves().items().size() > 5);
        add(
                "shelves-card",
                () -> chooseAsset("Mess table"),
                () -> parts.shelves().card().lookProperty().get().isPresent()
                        && frame.shelves().view().settled());
        shelves(frame);
        add(
                "receive",
                () -> {
                    frame.shelves().show(ShelvesView.Way.EDGES);
                    frame.go(Workplace.RECEIVE);
                    parts.receive().add(arrivals);
                },
                () -> {
                    boolean read = quiet.getAsBoolean() && parts.receive().waiting() == 11;
                    if (read
                            && parts.receive()
                                    .selectedProperty()
                                    .get()
                                    .map(Arrival::name)
                                    .filter(MAST::equals)
                                    .isEmpty()) {
                        choose(MAST);
                        return false;
                    }
                    return read && frame.receive().view().settled();
                });
        add("receive-missing", () -> choose("crate"), () -> frame.receive()
                .view()
                .settled());
        add("receive-refused", () -> choose("cut-off"), quiet);
        add(
                "receive-alike",
                () -> choose("barrel"),
                () -> quiet.getAsBoolean()
                        && frame.receive().view().settled()
                        && parts.receive()
                                .selectedProperty()
                                .get()
                                .filter(arrival ->
                                        !arrival.alikeProperty().get().isEmpty())
                                .isPresent());
        add(
                "receive-several",
                () -> parts.receive()
                        .select(parts.receive().arrivals().stream()
                                .filter(arrival -> arrival.group().endsWith("field-crew"))
                                .toList()),
                () -> quiet.getAsBoolean() && frame.receive().view().settled());
        add(
                "find",
                () -> {
                    frame.go(Workplace.SCENES);
                    frame.look("mast");
                },
                () -> quiet.getAsBoolean() && parts.shelves().items().size() < 8);
        prep(frame);
        add(
                "scenes",
                () -> {
                    frame.go(Workplace.SCENES);
                    parts.scenes().open(parts.scenes().files().getLast());
                },
                () -> quiet.getAsBoolean()
                        && parts.scenes().sceneProperty().get().isPresent()
                        && frame.scenes().view().settled());
        add(
                "scenes-selected",
                () -> {
                    parts.scenes().placements().stream()
                            .filter(placement -> placement.name().equals("Snow_tractor"))
                            .findFirst()
                            .ifPresent(placement ->
                                    parts.scenes().selectionProperty().set(Set.of(placement.path())));
                    frame.scenes().zoomTo();
                    var view = frame.scenes().view();
                    view.cameraProperty().set(view.cameraProperty().get().dollied(2.2));
                },
                () -> frame.scenes().view().settled());
        add(
                "scenes-bring",
                () -> {
                    parts.scenes().selectionProperty().set(Set.of());
                    frame.scenes().bringIn(parts.scenes().files().getFirst());
                },
                () -> quiet.getAsBoolean() && frame.scenes().isBringing());
        add(
                "scenes-night",
                () -> {
                    frame.scenes().bringNothing();
                    Look.setNight(scene, true);
                    frame.scenes().view().followDay();
                    frame.scenes().look(3);
                    parts.scenes().switchTo("hour", "night");
                    parts.scenes().switchLamps();
                },
                () -> quiet.getAsBoolean() && frame.scenes().view().settled());
        add(
                "reach",
                () -> {
                    parts.scenes().switchLamps();
                    parts.scenes().undo();
                    Look.setNight(scene, false);
                    frame.scenes().view().followDay();
                    frame.go(Workplace.REACH);
                },
                quiet);
    }

    /** A flawed arrival, inspected and made clean. */
    private void prep(FrameView frame) {
        BooleanSupplier quiet = () ->
                parts.session().jobs().isEmpty() && !parts.prep().busyProperty().get();
        BooleanSupplier seen = () -> quiet.getAsBoolean()
                && parts.prep().openedProperty().get().isPresent()
                && frame.prep().view().settled();
        add(
                "prep",
                () -> {
                    frame.look("");
                    frame.go(Workplace.PREP);
                    inspect(RACK);
                },
                () -> {
                    boolean there = seen.getAsBoolean();
                    if (there && parts.prep().tickedProperty().get().isEmpty()) {
                        parts.prep().tick(finding -> true, true);
                        parts.prep()
                                .openedProperty()
                                .get()
                                .flatMap(now -> now.findings().stream()
                                        .filter(finding -> finding.rule().id().equals("twins"))
                                        .findFirst())
                                .ifPresent(finding ->
                                        parts.prep().pointedProperty().set(Optional.of(finding)));
                        return false;
                    }
                    return there && parts.prep().foreseenProperty().get().isPresent();
                });
        add("prep-after", () -> parts.prep().tidy(), () -> {
            boolean done = seen.getAsBoolean()
                    && parts.prep()
                            .openedProperty()
                            .get()
                            .filter(now -> now.changed())
                            .isPresent();
            if (done && !frame.prep().isBeside()) {
                frame.prep().toggleBeside();
                return false;
            }
            return done;
        });
        add("prep-names", () -> frame.prep().show(PrepView.Tool.NAMES), quiet);
        add(
                "prep-proxy",
                () -> {
                    parts.prep().subjects().stream()
                            .filter(subject -> subject.title().equals("Snow tractor"))
                            .findFirst()
                            .ifPresent(
                                    subject -> parts.prep().selectedProperty().set(Optional.of(subject)));
                    frame.prep().show(PrepView.Tool.PROXY);
                },
                () -> {
                    if (seen.getAsBoolean() && !frame.prep().hasTried()) {
                        frame.prep().tryProxy();
                        return false;
                    }
                    return seen.getAsBoolean();
                });
    }

    private void inspect(String start) {
        parts.prep().refresh();
        parts.prep().subjects().stream()
                .filter(subject -> subject.title().startsWith(start))
                .findFirst()
                .ifPresent(subject -> parts.prep().selectedProperty().set(Optional.of(subject)));
    }

    /** The other ways to look at the shelves. */
    private void shelves(FrameView frame) {
        BooleanSupplier quiet = () -> parts.session().jobs().isEmpty();
        add(
                "shelves-compare",
                () -> {
                    chooseAsset("Cup anemometer");
                    frame.shelves().showOver();
                },
                () -> {
                    boolean shown = parts.shelves().card().lookProperty().get().isPresent() && quiet.getAsBoolean();
                    if (shown && parts.shelves().card().comparedProperty().get().isEmpty()) {
                        parts.shelves().card().compare("v001", "v003");
                        return false;
                    }
                    return shown && frame.shelves().views().stream().allMatch(view -> view.settled());
                });
        add(
                "shelves-table",
                () -> {
                    frame.shelves().uncover();
                    frame.shelves().show(ShelvesView.Way.TABLE);
                    frame.look("steel triangles:<5000");
                },
                quiet);
        add(
                "shelves-line-up",
                () -> {
                    frame.look("");
                    frame.shelves().show(ShelvesView.Way.LINE_UP);
                },
                () -> {
                    List<IndexedAsset> lined = parts.shelves().items().stream()
                            .filter(item -> LINED_UP.contains(item.name()))
                            .toList();
                    boolean all = lined.size() == LINED_UP.size() && quiet.getAsBoolean();
                    if (all && !parts.shelves().chosenProperty().get().equals(lined)) {
                        parts.shelves().choose(lined, Optional.empty());
                        return false;
                    }
                    return all && frame.shelves().views().stream().allMatch(view -> view.settled());
                });
    }

    private void chooseAsset(String name) {
        parts.shelves()
                .selectedProperty()
                .set(parts.shelves().items().stream()
                        .filter(item -> item.name().equals(name))
                        .findFirst());
    }

    private void add(String name, Runnable go, BooleanSupplier there) {
        stops.add(new Stop(name, go, there));
    }

    private void choose(String part) {
        Optional<Arrival> arrival = parts.receive().arrivals().stream()
                .filter(a -> a.name().contains(part))
                .findFirst();
        parts.receive().select(arrival.stream().toList());
    }

    void start() {
        new AnimationTimer() {
            @Override
            public void handle(long now) {
                if (step()) {
                    stop();
                    end.run();
                }
            }
        }.start();
    }

    /** One frame of the tour; true when it is over. */
    private boolean step() {
        if (current.isEmpty()) {
            current = Optional.ofNullable(stops.poll());
            if (current.isEmpty()) {
                return true;
            }
            // The mouse would light up what it happens to lie on.
            new Robot().mouseMove(0, 0);
            current.get().go().run();
            rested = 0;
            waited = 0;
            return false;
        }
        rested = current.get().there().getAsBoolean() ? rested + 1 : 0;
        if (rested >= RESTING_FRAMES) {
            save(current.get().name());
            current = Optional.empty();
        } else if (++waited > LONGEST_FRAMES) {
            throw new PantryException("the view \"" + current.get().name() + "\" did not come to rest");
        }
        return false;
    }

    private void save(String name) {
        WritableImage shot = scene.snapshot(null);
        int width = (int) shot.getWidth();
        int height = (int) shot.getHeight();
        BufferedImage image = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
        PixelReader pixels = shot.getPixelReader();
        for (int y = 0; y < height; y++) {
            for (int x = 0; x < width; x++) {
                image.setRGB(x, y, pixels.getArgb(x, y));
            }
        }
        Path file = folder.resolve(name + ".png");
        try {
            Files.createDirectories(folder);
            ImageIO.write(image, "png", file.toFile());
        } catch (IOException e) {
            throw new PantryException(file, "the picture cannot be written: " + e.getMessage(), e);
        }
    }
}
