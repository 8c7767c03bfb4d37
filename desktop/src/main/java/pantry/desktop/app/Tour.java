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
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import pantry.base.PantryException;
import pantry.catalogue.IndexedAsset;
import pantry.desktop.controls.Theme;
import pantry.desktop.frame.FrameView;
import pantry.desktop.prep.PrepView;
import pantry.desktop.reach.Subject;
import pantry.desktop.receive.Arrival;
import pantry.desktop.shelves.ShelvesView;

/** Visits every main view of the demo, puts a picture of each into a folder, and ends the application. */
final class Tour {
    private static final Logger LOG = LoggerFactory.getLogger(Tour.class);

    /** Frames that a view is given to come to rest once it says that it has. */
    private static final int RESTING_FRAMES = 24;

    private static final int LONGEST_FRAMES = 60 * 60;

    /** Scenes of which the gallery shows a picture at once. */
    private static final int SEEN_SCENES = 6;

    private static final Set<String> LINED_UP =
            Set.of("Living module", "Snow tractor", "Dome hut", "Radome on plinth", "Tripod mast 3 m", "Fuel drum");

    private static final String RACK = "battery-rack";

    private static final String MAST = "tripod-mast-millimetres.obj";

    private final Parts parts;
    private final Scene scene;
    private final Path folder;
    private final Runnable end;
    private final Deque<Stop> stops = new ArrayDeque<>();
    private Optional<Stop> current = Optional.empty();
    private int rested;
    private int waited;

    /** A view: how to get there, and when it is there. */
    private record Stop(String name, Runnable go, BooleanSupplier there) {}

    Tour(Parts parts, Scene scene, List<Path> arrivals, Path folder, Runnable end) {
        this.parts = parts;
        this.scene = scene;
        this.folder = folder;
        this.end = end;
        FrameView frame = parts.frame();
        BooleanSupplier quiet = () -> parts.session().background().isIdle();
        add(
                "shelves",
                () -> parts.navigator().go(parts.shelves()),
                () -> quiet.getAsBoolean() && parts.search().items().size() > 5);
        add(
                "shelves-card",
                () -> chooseAsset("Mess table"),
                () -> parts.shelves().model().card().previewProperty().get().isPresent()
                        && parts.shelves().node().view().settled());
        shelves(frame);
        add(
                "receive",
                () -> {
                    parts.shelves().node().show(ShelvesView.Way.EDGES);
                    parts.navigator().go(parts.receive());
                    parts.receive().model().add(arrivals);
                },
                () -> {
                    List<Arrival> arrived = parts.receive().model().arrivals();
                    boolean read = quiet.getAsBoolean()
                            && !arrived.isEmpty()
                            && arrived.stream()
                                    .allMatch(each -> each.state() == Arrival.State.READY
                                            || each.state() == Arrival.State.REFUSED);
                    if (read
                            && parts.receive()
                                    .model()
                                    .selectedProperty()
                                    .get()
                                    .map(Arrival::name)
                                    .filter(MAST::equals)
                                    .isEmpty()) {
                        choose(MAST);
                        return false;
                    }
                    return read && parts.receive().node().view().settled();
                });
        add(
                "receive-missing",
                () -> choose("crate"),
                () -> parts.receive().node().view().settled());
        add("receive-refused", () -> choose("cut-off"), quiet);
        add(
                "receive-alike",
                () -> choose("barrel"),
                () -> quiet.getAsBoolean()
                        && parts.receive().node().view().settled()
                        && parts.receive()
                                .model()
                                .selectedProperty()
                                .get()
                                .filter(arrival ->
                                        !arrival.alikeProperty().get().isEmpty())
                                .isPresent());
        add(
                "receive-several",
                () -> parts.receive()
                        .model()
                        .select(parts.receive().model().arrivals().stream()
                                .filter(arrival -> arrival.group().endsWith("field-crew"))
                                .toList()),
                () -> quiet.getAsBoolean() && parts.receive().node().view().settled());
        add(
                "find",
                () -> {
                    parts.navigator().go(parts.scenes());
                    frame.search("mast");
                },
                () -> quiet.getAsBoolean() && parts.search().items().size() < 8);
        prep(frame);
        add(
                "scenes",
                () -> {
                    parts.navigator().go(parts.scenes());
                    parts.scenes().model().open(parts.scenes().model().files().getLast());
                },
                () -> quiet.getAsBoolean()
                        && parts.scenes().model().sceneProperty().get().isPresent()
                        && parts.scenes().node().view().settled());
        add(
                "scenes-selected",
                () -> {
                    parts.scenes().model().placements().stream()
                            .filter(placement -> placement.name().equals("Snow_tractor"))
                            .findFirst()
                            .ifPresent(placement ->
                                    parts.scenes().model().selectionProperty().set(Set.of(placement.path())));
                    parts.scenes().node().zoomTo();
                    var view = parts.scenes().node().view();
                    view.cameraProperty().set(view.cameraProperty().get().dollied(2.2));
                },
                () -> parts.scenes().node().view().settled());
        add(
                "scenes-moving",
                () -> {
                    parts.scenes().model().placements().stream()
                            .filter(placement -> placement.name().equals("Technician"))
                            .findFirst()
                            .ifPresent(placement ->
                                    parts.scenes().model().selectionProperty().set(Set.of(placement.path())));
                    parts.scenes().model().display().clock().timeProperty().set(1.3);
                    parts.scenes().node().zoomTo();
                    var view = parts.scenes().node().view();
                    view.cameraProperty().set(view.cameraProperty().get().dollied(2.4));
                },
                () -> quiet.getAsBoolean() && parts.scenes().node().view().settled());
        add(
                "scenes-bring",
                () -> {
                    parts.scenes().model().selectionProperty().set(Set.of());
                    parts.scenes().node().bringIn(parts.scenes().model().files().getFirst());
                },
                () -> quiet.getAsBoolean() && parts.scenes().node().isBringing());
        add(
                "scenes-night",
                () -> {
                    parts.scenes().node().bringNothing();
                    Theme.setNight(scene, true);
                    parts.scenes().node().showFocus(3);
                    parts.scenes().model().switchTo("hour", "night");
                    parts.scenes().model().display().switchLamps();
                },
                () -> quiet.getAsBoolean() && parts.scenes().node().view().settled());
        add(
                "reach",
                () -> {
                    parts.scenes().model().display().switchLamps();
                    parts.scenes().model().undo();
                    Theme.setNight(scene, false);
                    parts.navigator().go(parts.reach());
                    parts.reach().model().knownProperty().get().reach().stream()
                            .flatMap(reach -> reach.assets().stream())
                            .filter(asset -> asset.card().name().equals("Cup anemometer"))
                            .findFirst()
                            .ifPresent(asset -> parts.reach()
                                    .model()
                                    .subjectProperty()
                                    .set(new Subject.OfAsset(asset.card().id())));
                },
                () -> quiet.getAsBoolean()
                        && !parts.reach().model().isPending()
                        && !parts.reach().model().graphProperty().get().nodes().isEmpty());
        add(
                "reach-weight",
                () -> {
                    parts.reach().model().subjectProperty().set(Subject.ALL);
                    parts.reach().model().weight().shownProperty().set(true);
                },
                () -> quiet.getAsBoolean()
                        && !parts.reach().model().isPending()
                        && !parts.reach()
                                .model()
                                .weight()
                                .savingsProperty()
                                .get()
                                .isEmpty());
        add(
                "scenes-gallery",
                () -> {
                    parts.reach().model().weight().shownProperty().set(false);
                    parts.scenes().model().close();
                    parts.navigator().go(parts.scenes());
                },
                () -> quiet.getAsBoolean()
                        && parts.session().sceneThumbnails().taken().size() >= SEEN_SCENES);
    }

    /** A flawed arrival, inspected and made clean. */
    private void prep(FrameView frame) {
        BooleanSupplier quiet = () -> parts.session().background().isIdle()
                && !parts.prep().model().busyProperty().get();
        BooleanSupplier seen = () -> quiet.getAsBoolean()
                && parts.prep().model().openedProperty().get().isPresent()
                && parts.prep().node().view().settled();
        add(
                "prep",
                () -> {
                    frame.search("");
                    parts.navigator().go(parts.prep());
                    inspect(RACK);
                },
                () -> {
                    boolean there = seen.getAsBoolean();
                    if (there
                            && parts.prep()
                                    .model()
                                    .chosen()
                                    .tickedProperty()
                                    .get()
                                    .isEmpty()) {
                        parts.prep().model().chosen().tick(finding -> true, true);
                        parts.prep()
                                .model()
                                .openedProperty()
                                .get()
                                .flatMap(now -> now.findings().stream()
                                        .filter(finding -> finding.rule().id().equals("twins"))
                                        .findFirst())
                                .ifPresent(finding -> parts.prep()
                                        .model()
                                        .chosen()
                                        .pointedProperty()
                                        .set(Optional.of(finding)));
                        return false;
                    }
                    return there
                            && parts.prep()
                                    .model()
                                    .chosen()
                                    .foreseenProperty()
                                    .get()
                                    .isPresent();
                });
        add("prep-after", () -> parts.prep().model().tidy(), () -> {
            boolean done = seen.getAsBoolean()
                    && parts.prep()
                            .model()
                            .openedProperty()
                            .get()
                            .filter(now -> now.changed())
                            .isPresent();
            if (done && !parts.prep().node().isBeside()) {
                parts.prep().node().toggleBeside();
                return false;
            }
            return done;
        });
        add("prep-names", () -> parts.prep().node().show(PrepView.Tool.NAMES), quiet);
        add(
                "prep-proxy",
                () -> {
                    parts.prep().model().items().stream()
                            .filter(subject -> subject.title().equals("Snow tractor"))
                            .findFirst()
                            .ifPresent(subject ->
                                    parts.prep().model().selectedProperty().set(Optional.of(subject)));
                    parts.prep().node().show(PrepView.Tool.PROXY);
                },
                () -> {
                    if (seen.getAsBoolean() && !parts.prep().node().hasTried()) {
                        parts.prep().node().tryProxy();
                        return false;
                    }
                    return seen.getAsBoolean();
                });
    }

    private void inspect(String start) {
        parts.prep().model().list().refresh();
        parts.prep().model().items().stream()
                .filter(subject -> subject.title().startsWith(start))
                .findFirst()
                .ifPresent(subject -> parts.prep().model().selectedProperty().set(Optional.of(subject)));
    }

    /** The other ways to look at the shelves. */
    private void shelves(FrameView frame) {
        BooleanSupplier quiet = () -> parts.session().background().isIdle();
        add(
                "shelves-compare",
                () -> {
                    chooseAsset("Cup anemometer");
                    parts.shelves().node().showOver();
                },
                () -> {
                    boolean shown = parts.shelves()
                                    .model()
                                    .card()
                                    .previewProperty()
                                    .get()
                                    .isPresent()
                            && quiet.getAsBoolean();
                    if (shown
                            && parts.shelves()
                                    .model()
                                    .card()
                                    .comparedProperty()
                                    .get()
                                    .isEmpty()) {
                        parts.shelves().model().card().compare("v001", "v003");
                        return false;
                    }
                    return shown && parts.shelves().node().views().stream().allMatch(view -> view.settled());
                });
        add(
                "shelves-table",
                () -> {
                    parts.shelves().node().uncover();
                    parts.shelves().node().show(ShelvesView.Way.TABLE);
                    frame.search("steel triangles:<5000");
                },
                quiet);
        add(
                "shelves-line-up",
                () -> {
                    frame.search("");
                    parts.shelves().node().show(ShelvesView.Way.LINE_UP);
                },
                () -> {
                    List<IndexedAsset> lined = parts.search().items().stream()
                            .filter(item -> LINED_UP.contains(item.name()))
                            .toList();
                    boolean all = lined.size() == LINED_UP.size() && quiet.getAsBoolean();
                    if (all && !parts.shelves().model().chosenProperty().get().equals(lined)) {
                        parts.shelves().model().choose(lined, Optional.empty());
                        return false;
                    }
                    return all && parts.shelves().node().views().stream().allMatch(view -> view.settled());
                });
    }

    private void chooseAsset(String name) {
        parts.shelves()
                .model()
                .selectedProperty()
                .set(parts.search().items().stream()
                        .filter(item -> item.name().equals(name))
                        .findFirst());
    }

    private void add(String name, Runnable go, BooleanSupplier there) {
        stops.add(new Stop(name, go, there));
    }

    private void choose(String part) {
        Optional<Arrival> arrival = parts.receive().model().arrivals().stream()
                .filter(a -> a.name().contains(part))
                .findFirst();
        parts.receive().model().select(arrival.stream().toList());
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
            // The others are to be seen all the same.
            LOG.error(
                    "there is no picture of {}: the view did not come to rest",
                    current.get().name());
            current = Optional.empty();
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
