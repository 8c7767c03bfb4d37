package pantry.desktop.scenes;

import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import pantry.base.PantryException;
import pantry.desktop.session.Libraries;
import pantry.desktop.session.Publications;
import pantry.desktop.session.Session;
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Owner;
import pantry.library.VersionStatus;
import pantry.scene.Overrides;
import pantry.scene.Placement;
import pantry.scene.Replaced;
import pantry.scene.Scene;
import pantry.scene.Sections;
import pantry.usd.SdfPath;
import pantry.usd.edit.ChangeEffect;
import pantry.usecase.MakeAsset;
import pantry.usecase.NextVersion;
import pantry.workbench.Workbench;

/** What goes from a scene to the library and to files beside it: prefabs, versions, overrides, sections. */
public final class SceneExports {
    private final OpenScene scene;
    private final Keeping keeping;

    /** The assets that layers belong to, as they were found since something changed on the shelves last. */
    private final Map<Path, Shelved> homes = new HashMap<>();

    private Libraries.@Nullable Contents homesOf;

    SceneExports(OpenScene scene, Keeping keeping) {
        this.scene = scene;
        this.keeping = keeping;
    }

    /** Lets the selected placements show another asset, or another version of theirs. */
    public void replace(Asset asset, Optional<String> version) {
        scene.withSelected(open -> {
            tell(open, asset, open.placements().replace(scene.selected(), asset, version));
            return scene.selected();
        });
    }

    /** Lets placements show another asset: those that were pinned are pinned to its ready version, the others follow. */
    void swap(List<SdfPath> paths, Asset asset) {
        scene.withSelected(open -> {
            tell(open, asset, open.placements().replaceAsHeld(paths, asset));
            return scene.selected();
        });
    }

    /** What was said of things that are not there any more. */
    private void tell(Scene open, Asset asset, Replaced replaced) {
        if (!replaced.lost().isEmpty()) {
            scene.session()
                    .wrong(new PantryException(
                            open.file(),
                            Units.counted(replaced.lost().size(), "override")
                                    + " of what is not there any more; the first of them is for "
                                    + replaced.lost().getFirst()));
        }
        if (!replaced.dropped().isEmpty()) {
            scene.session()
                    .wrong(new PantryException(
                            open.file(),
                            asset.card().name() + " does not offer what was chosen: "
                                    + String.join(", ", replaced.dropped())));
        }
    }

    /** Puts what is selected on a shelf of the library that things are put into, as a prefab. */
    public void makeAsset(String name, String shelf) {
        Optional<Library> library = scene.session().shelving().target();
        if (library.isEmpty() || scene.get().isEmpty()) {
            scene.session().wrong(new PantryException("no library is open that " + name + " could be put into"));
            return;
        }
        Scene open = scene.get().get();
        Scene now = open.snapshot();
        List<SdfPath> chosen = List.copyOf(scene.selectionProperty().get());
        keeping.autosave();
        scene.session()
                .shelving()
                .change(
                        "shelving " + name,
                        Libraries.Touched.all(library.get()),
                        progress -> {
                            Set<String> shelves = Set.copyOf(library.get().shelves());
                            MakeAsset.Result result = makeAsset(now)
                                    .run(
                                            new MakeAsset.Source(now, chosen),
                                            library.get(),
                                            new MakeAsset.Options(name, AssetKind.PREFAB, shelf, List.of()),
                                            progress);
                            return new Made(result, shelves);
                        },
                        all -> {
                            MakeAsset.Result made = all.result();
                            tellShelved(library.get(), all);
                            boolean there = scene.isOpen(open)
                                    && chosen.stream()
                                            .allMatch(path -> open.spec(path).isPresent());
                            if (there && !chosen.contains(open.root())) {
                                scene.act(each -> scene.selectionProperty()
                                        .set(Set.of(
                                                each.placements().substitute(chosen, made.asset(), made.origin()))));
                            }
                        },
                        scene.session()::wrong);
    }

    private MakeAsset makeAsset(Scene now) {
        Workbench workbench = scene.session().workbench();
        return new MakeAsset(workbench.layers(now.file()), workbench.renderCache());
    }

    /** @param shelves those that there were before */
    private record Made(MakeAsset.Result result, Set<String> shelves) {}

    private void tellShelved(Library library, Made all) {
        Session session = scene.session();
        MakeAsset.Result made = all.result();
        Asset asset = made.asset();
        String told = "shelved " + asset.card().name() + " on " + asset.shelf()
                + (made.droppedMemberships() == 0
                        ? ""
                        : "; of its drawers, " + made.droppedMemberships()
                                + " members are left out, since they were not chosen");
        List<Publications.Part> parts = List.of(Publications.ofAsset(library, asset, all.shelves()));
        Libraries.Touched touched = Libraries.Touched.shelf(library, asset.shelf());
        session.done(
                told,
                new Publications(session)
                        .together("putting " + asset.card().name() + " back", touched, parts)
                        .done(session, parts));
    }

    /** Publishes what is selected as an asset's next version. */
    public void publish(Asset asset, Library library, String note) {
        scene.get().ifPresent(open -> {
            Scene now = open.snapshot();
            List<SdfPath> chosen = List.copyOf(scene.selectionProperty().get());
            scene.session()
                    .shelving()
                    .change(
                            "publishing " + asset.card().name(),
                            Libraries.Touched.shelf(library, asset.shelf()),
                            progress -> makeAsset(now)
                                    .publish(
                                            new MakeAsset.Source(now, chosen),
                                            library,
                                            new NextVersion(asset, VersionStatus.READY, note),
                                            progress),
                            published -> new Publications(scene.session())
                                    .tell(
                                            asset.card().name() + " " + published.version() + " is published",
                                            library,
                                            published,
                                            VersionStatus.READY,
                                            () -> {}),
                            scene.session()::wrong);
        });
    }

    /** Tells the asset that a placement shows: at once where it is known, and otherwise once it was looked for. */
    void whenShelved(Placement placement, Consumer<Shelved> then) {
        Libraries.Contents contents =
                scene.session().shelving().contentsProperty().get();
        if (homesOf != contents) {
            homesOf = contents;
            homes.clear();
        }
        Path layer = placement.layer();
        Shelved known = homes.get(layer);
        if (known != null) {
            then.accept(known);
            return;
        }
        List<Library> libraries = scene.session().shelving().present();
        scene.session()
                .quietly(
                        "looking for what " + layer.getFileName() + " belongs to",
                        progress -> shelved(placement, libraries),
                        found -> found.ifPresent(home -> {
                            if (homesOf == contents) {
                                homes.put(layer, home);
                            }
                            then.accept(home);
                        }));
    }

    private Optional<Shelved> shelved(Placement placement) {
        return shelved(placement, scene.session().shelving().present());
    }

    /** The asset that a placement shows, with its library; empty where it is of none of these. */
    private static Optional<Shelved> shelved(Placement placement, List<Library> libraries) {
        for (Library library : libraries) {
            if (placement.layer().startsWith(library.root())) {
                Optional<Asset> asset = library.owner(placement.layer()).map(Owner::asset);
                if (asset.isPresent()) {
                    return Optional.of(new Shelved(library, asset.get()));
                }
            }
        }
        return Optional.empty();
    }

    /** An asset and the library that it stands in. */
    public record Shelved(Library library, Asset asset) {}

    /** Publishes a placement's asset with its overrides, in the background; the placement follows it then. */
    public void writeBack(SdfPath path, String note) {
        scene.get().ifPresent(open -> open.placements()
                .at(path)
                .flatMap(this::shelved)
                .ifPresentOrElse(
                        home -> {
                            keeping.autosave();
                            Scene now = open.snapshot();
                            Optional<String> before = home.asset().ready();
                            scene.session()
                                    .shelving()
                                    .change(
                                            "writing back " + path.name(),
                                            Libraries.Touched.shelf(
                                                    home.library(), home.asset().shelf()),
                                            progress -> now.overrides()
                                                    .publish(
                                                            path,
                                                            note,
                                                            new Overrides.Publisher(
                                                                    file -> Optional.of(home.library()),
                                                                    scene.session()
                                                                            .workbench()
                                                                            .prepSources(),
                                                                    scene.session()
                                                                            .workbench()
                                                                            .renderCache()),
                                                            progress),
                                            published -> {
                                                scene.session()
                                                        .told(home.asset()
                                                                        .card()
                                                                        .name() + " " + published.version()
                                                                + " is published");
                                                if (scene.isOpen(open)) {
                                                    scene.act(each -> {
                                                        each.overrides().follow(path, published);
                                                        each.attach(statuses(home, before, published.version()));
                                                    });
                                                }
                                            },
                                            scene.session()::wrong);
                        },
                        () -> scene.session()
                                .wrong(new PantryException(open.file(), path.name() + " is of no open library"))));
    }

    /** Taking back a write-back lets followers have what they had before; the version stays, retired. */
    private ChangeEffect statuses(Shelved home, Optional<String> before, String version) {
        return new ChangeEffect() {
            @Override
            public void undo() {
                set(home, version + " is retired again", asset -> {
                    before.ifPresent(ready -> home.library().setStatus(asset, ready, VersionStatus.READY));
                    home.library().setStatus(asset, version, VersionStatus.RETIRED);
                });
            }

            @Override
            public void redo() {
                set(home, version + " is ready again", asset -> home.library()
                        .setStatus(asset, version, VersionStatus.READY));
            }
        };
    }

    private void set(Shelved home, String done, Consumer<Asset> change) {
        scene.session()
                .shelving()
                .change(
                        "changing " + home.asset().card().name(),
                        Libraries.Touched.shelf(home.library(), home.asset().shelf()),
                        progress -> {
                            change.accept(home.library().current(home.asset()));
                            return done;
                        },
                        told -> scene.session().told(home.asset().card().name() + " " + told),
                        scene.session()::wrong);
    }

    /** Cuts what is selected out into a section of its own. */
    public void cutSection(String name) {
        scene.withSelected(open -> {
            open.autosave();
            return List.of(open.sections().cut(scene.selected(), name));
        });
    }

    /** Takes the selected sections back into the scene. */
    public void joinSections() {
        scene.withSelected(open -> scene.selected().stream()
                .flatMap(path ->
                        open.sections().join(path, scene.session().workbench().who()).stream())
                .toList());
    }

    /** Holds the selected section for oneself, or lets go of it. */
    public void hold(boolean wanted) {
        scene.get().ifPresent(open -> scene.session()
                .attempt(() -> scene.selected().forEach(path -> {
                    String who = scene.session().workbench().who();
                    if (wanted) {
                        open.sections().reserve(path, who);
                    } else {
                        open.sections().release(path, who);
                    }
                    scene.session().told((wanted ? "holding " : "let go of ") + path.name());
                    refreshSelection();
                })));
    }

    /** Holds the open file, a section that is worked on, for oneself, or lets go of it. */
    void holdOpen(boolean wanted) {
        scene.get().ifPresent(open -> scene.session().attempt(() -> {
            String who = scene.session().workbench().who();
            if (wanted) {
                Sections.reserve(open.file(), who);
            } else {
                Sections.release(open.file(), who);
            }
            scene.session()
                    .told((wanted ? "holding " : "let go of ") + open.file().getFileName());
        }));
    }

    private void refreshSelection() {
        Set<SdfPath> chosen = scene.selectionProperty().get();
        scene.selectionProperty().set(Set.of());
        scene.selectionProperty().set(chosen);
    }
}
