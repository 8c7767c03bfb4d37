package pantry.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import pantry.base.Names;
import pantry.base.PantryException;
import pantry.scene.Anchors;
import pantry.scene.Drawers;
import pantry.scene.Focus;
import pantry.scene.Pictures;
import pantry.scene.Scene;
import pantry.scene.SceneClipboard;
import pantry.scene.Settling;
import pantry.usd.SdfPath;
import pantry.workbench.Workbench;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Sets of objects, alternates and ways to look; and what falls. */
final class ChooseCommand {
    private ChooseCommand() {}

    /** Named sets of objects. */
    @Command(
            name = "drawer",
            description = "List a scene's drawers; put objects into one or take them out; hide, lock or unload it.")
    static final class Drawer extends ArrangeCommand {
        @Parameters(index = "1", arity = "0..1", paramLabel = "NAME", description = "The drawer's name.")
        private Optional<String> name = Optional.empty();

        @Parameters(index = "2..*", arity = "0..*", paramLabel = "OBJECT", description = "Paths or names.")
        private List<String> what = List.of();

        @Option(names = "--take", description = "Take the objects out instead.")
        private boolean take;

        @Option(names = "--remove", description = "Remove the drawer; what is in it stays.")
        private boolean remove;

        @Option(names = "--state", split = ",", paramLabel = "hidden|locked|unloaded|open", description = "How it is.")
        private List<String> state = List.of();

        Drawer(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            Drawers drawers = scene.drawers();
            if (name.isPresent()) {
                List<SdfPath> paths = paths(scene, what);
                if (remove) {
                    drawers.remove(name.get());
                } else if (take) {
                    drawers.take(name.get(), paths);
                } else if (!paths.isEmpty()) {
                    drawers.put(name.get(), paths);
                }
                if (!state.isEmpty()) {
                    drawers.set(name.get(), state());
                }
            }
            List<String> told = new ArrayList<>();
            for (Drawers.Drawer drawer : drawers.all()) {
                Drawers.State is = drawers.state(drawer.name());
                told.add(drawer.name() + ": " + Names.counted(drawer.members().size(), "object")
                        + (is.hidden() ? ", hidden" : "")
                        + (is.locked() ? ", locked" : "")
                        + (is.unloaded() ? ", unloaded" : ""));
            }
            return new Done(List.of(), told);
        }

        private Drawers.State state() {
            if (!List.of("hidden", "locked", "unloaded", "open").containsAll(state)) {
                throw wrongCall("--state is one or more of hidden, locked, unloaded; or open.");
            }
            return new Drawers.State(state.contains("hidden"), state.contains("locked"), state.contains("unloaded"));
        }
    }

    /** Sets of which one is switched in. */
    @Command(
            name = "alternates",
            description = "List a scene's sets of alternates; make one, put objects or a file into it, switch it in.")
    static final class AlternateSets extends ArrangeCommand {
        @Parameters(index = "1", arity = "0..1", paramLabel = "SET/NAME", description = "An alternate of a set.")
        private Optional<String> which = Optional.empty();

        @Parameters(
                index = "2..*",
                arity = "0..*",
                paramLabel = "OBJECT",
                description = "Paths or names of what is to be there only with it.")
        private List<String> what = List.of();

        @Option(names = "--file", paramLabel = "F", description = "Let it show this file, which other scenes may too.")
        private Optional<Path> file = Optional.empty();

        @Option(names = "--remove", description = "Remove it with all that belongs to it alone.")
        private boolean remove;

        @Option(names = "--sheet", paramLabel = "F.png", description = "Write all combinations as one picture.")
        private Optional<Path> sheet = Optional.empty();

        AlternateSets(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            List<SdfPath> made = new ArrayList<>();
            which.ifPresent(named -> {
                String[] parts = named.split("/", -1);
                if (parts.length != 2) {
                    throw wrongCall(named + " is no SET/NAME, such as Layout/Winter.");
                }
                choose(scene, parts[0], parts[1], made);
            });
            List<String> told = new ArrayList<>();
            scene.alternates()
                    .all()
                    .forEach(set -> told.add(set.name() + ": " + String.join(", ", set.alternates())
                            + (set.chosen().isEmpty() ? "" : "; " + set.chosen() + " is switched in")));
            sheet.ifPresent(target -> {
                Pictures pictures = new Pictures(workbench.renderCache());
                Pictures.write(pictures.sheet(scene, 480, output.progress()), target);
                told.add(target + " shows " + scene.alternates().combinations().size() + " combinations");
            });
            return new Done(made, told);
        }

        private void choose(Scene scene, String set, String alternate, List<SdfPath> made) {
            if (remove) {
                scene.alternates().remove(set, alternate);
                return;
            }
            boolean known = scene.alternates().all().stream()
                    .anyMatch(
                            each -> each.name().equals(set) && each.alternates().contains(alternate));
            if (!known) {
                scene.alternates().add(set, alternate);
            }
            List<SdfPath> paths = paths(scene, what);
            if (!paths.isEmpty()) {
                scene.alternates().keep(set, alternate, paths);
            }
            file.ifPresent(path -> made.add(scene.alternates().refer(set, alternate, alternate, path)));
            scene.alternates().choose(set, alternate);
        }
    }

    /** Ways to look at a scene. */
    @Command(name = "focus", description = "List a scene's focuses, keep one, or write pictures of them.")
    static final class Focuses extends ArrangeCommand {
        @Parameters(index = "1", arity = "0..1", paramLabel = "NAME", description = "The focus's name.")
        private Optional<String> name = Optional.empty();

        @Option(names = "--detail", paramLabel = "light|full", description = "Proxies, or all as it is rendered.")
        private Focus.Detail detail = Focus.Detail.FULL;

        @Option(names = "--hide", paramLabel = "DRAWER", description = "Do not show this drawer.")
        private List<String> hidden = List.of();

        @Option(names = "--unload", paramLabel = "DRAWER", description = "Read nothing of this drawer.")
        private List<String> unloaded = List.of();

        @Option(names = "--remove", description = "Remove it instead.")
        private boolean remove;

        @Option(
                names = "--pictures",
                paramLabel = "DIR",
                description = "Write a PNG of each, 1600×1000, into a folder; made where it is missing.")
        private Optional<Path> folder = Optional.empty();

        @Option(names = "--lamps", description = "Draw them in the light of the scene's own lamps.")
        private boolean lit;

        Focuses(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            name.ifPresent(named -> {
                if (remove) {
                    scene.focuses().remove(named);
                } else {
                    hidden.forEach(drawer -> scene.drawers().drawer(drawer));
                    unloaded.forEach(drawer -> scene.drawers().drawer(drawer));
                    scene.focuses()
                            .keep(new Focus(
                                    named,
                                    detail,
                                    java.util.Set.copyOf(hidden),
                                    java.util.Set.copyOf(unloaded),
                                    Optional.empty()));
                }
            });
            List<String> told = new ArrayList<>();
            Pictures pictures = new Pictures(workbench.renderCache());
            for (Focus focus : scene.focuses().all()) {
                told.add(focus.name() + ": " + focus.detail().name().toLowerCase(Locale.ROOT)
                        + (focus.hidden().isEmpty() ? "" : ", without " + String.join(", ", focus.hidden())));
                folder.ifPresent(into -> {
                    Path file = into.resolve(pantry.base.Names.slug(focus.name()) + ".png");
                    Pictures.write(pictures.of(scene, focus, lit, 1600, 1000), file);
                    told.add(file.toString());
                });
            }
            return new Done(List.of(), told);
        }
    }

    /** Lets things fall. */
    @Command(name = "settle", description = "Let objects fall under gravity onto what is below them until they rest.")
    static final class Settle extends ArrangeCommand {
        @Parameters(index = "1..*", arity = "1..*", paramLabel = "OBJECT", description = "Paths or names.")
        private List<String> what = List.of();

        @Option(names = "--on", paramLabel = "OBJECT", description = "What they fall on; all else, where not said.")
        private List<String> standing = List.of();

        @Option(names = "--no-floor", description = "There is no floor at height 0.")
        private boolean noFloor;

        @Option(
                names = "--most",
                paramLabel = "S",
                defaultValue = "20",
                description = "Seconds that may pass for them before they count as restless.")
        private double most = 20;

        Settle(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            if (!(most > 0)) {
                throw wrongCall("--most is a number of seconds above 0.");
            }
            List<SdfPath> falling = paths(scene, what);
            Settling.Settled settled = Settling.of(scene, falling, paths(scene, standing), !noFloor)
                    .fall(most, output.progress(), Settling.Watcher.NONE);
            if (!settled.moving().isEmpty()) {
                throw new PantryException(
                        scene.file(),
                        settled.moving().getFirst() + " had not come to rest after "
                                + String.format(Locale.ROOT, "%.0f", settled.seconds())
                                + " s; nothing was changed. Say --most for longer");
            }
            scene.arranging().transform("settled", settled.changes());
            return new Done(
                    falling,
                    List.of(String.format(
                            Locale.ROOT,
                            "at rest after %.1f s; deepest in each other by %.1f mm",
                            settled.seconds(),
                            settled.deepest() * 1000)));
        }
    }

    /** Something to hold and turn things by. */
    @Command(name = "anchor", description = "Make an anchor with a drawn mark, or give one another mark.")
    static final class Anchor extends ArrangeCommand {
        @Parameters(
                index = "1",
                arity = "0..1",
                paramLabel = "OBJECT",
                description = "An anchor or group that is to be marked; a new one is made where not said.")
        private Optional<String> what = Optional.empty();

        @Option(names = "--shape", paramLabel = "cross|ring|arrow|box", description = "How it is drawn.")
        private Anchors.Shape shape = Anchors.Shape.CROSS;

        @Option(names = "--size", paramLabel = "M", defaultValue = "1", description = "Across, metres.")
        private double size = 1;

        @Option(names = "--colour", paramLabel = "RRGGBB", defaultValue = "3C6491", description = "As displayed.")
        private String colour = "3C6491";

        @Mixin
        private Place where = new Place();

        Anchor(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            if (!colour.matches("[0-9A-Fa-f]{6}")) {
                throw wrongCall("--colour is six hexadecimal digits, such as 3C6491.");
            }
            Anchors.Mark mark = new Anchors.Mark(shape, size, Integer.parseInt(colour, 16));
            if (what.isPresent()) {
                SdfPath path = path(scene, what.get());
                scene.anchors().draw(path, mark);
                return Done.of(path);
            }
            return Done.of(
                    scene.anchors().make(where.name("Anchor"), mark, where.placing(this), where.under(this, scene)));
        }
    }

    /** Takes things from one scene to another. */
    @Command(
            name = "paste",
            description = "Copy objects of another scene into a scene as they are there: references stay references.")
    static final class Paste extends ArrangeCommand {
        @Parameters(index = "1", paramLabel = "OTHER", description = "The other scene's file.")
        private Path other = Path.of("");

        @Parameters(index = "2..*", arity = "1..*", paramLabel = "OBJECT", description = "Paths or names there.")
        private List<String> what = List.of();

        @Option(names = "--under", paramLabel = "PATH", description = "An existing prim to put them under.")
        private Optional<String> under = Optional.empty();

        Paste(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            Scene from = workbench.openScene(other);
            SceneClipboard clipping = SceneClipboard.of(from, paths(from, what));
            List<SdfPath> pasted = clipping.paste(scene, under.map(named -> path(scene, named)));
            return new Done(
                    pasted,
                    clipping.needs().stream().map(need -> "along came " + need).toList());
        }
    }

    /** Hangs things elsewhere. */
    @Command(name = "hang", description = "Hang objects on another one; they keep their places in the world.")
    static final class Hang extends ArrangeCommand {
        @Parameters(index = "1", paramLabel = "ON", description = "What they are to hang on.")
        private String on = "";

        @Parameters(index = "2..*", arity = "1..*", paramLabel = "OBJECT", description = "Paths or names.")
        private List<String> what = List.of();

        Hang(Workbench workbench, Output output) {
            super(workbench, output);
        }

        @Override
        Done change(Scene scene) {
            return Done.of(scene.structure().reparent(paths(scene, what), path(scene, on)));
        }
    }
}
