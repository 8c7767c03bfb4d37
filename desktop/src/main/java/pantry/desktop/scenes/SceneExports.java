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
import pantry.desktop.session.Units;
import pantry.library.Asset;
import pantry.library.AssetKind;
import pantry.library.Library;
import pantry.library.Owner;
import pantry.library.VersionStatus;
import pantry.scene.Placement;
import pantry.scene.Replaced;
import pantry.scene.Scene;
import pantry.usd.SdfPath;
import pantry.usd.edit.StageEditor;
import pantry.usecase.MakeAsset;
import pantry.usecase.NextVersion;
import pantry.workbench.Workbench;

/** What goes from a scene to the library and to files beside it: prefabs, versions, overrides, sections. */
public final class SceneExports {
    private final ScenesModel model;

    /** The assets that layers belong to, as they were found since something changed on the shelves last. */
    private final Map<Path, Shelved> homes = new HashMap<>();

    private Libraries.@Nullable Contents homesOf;

    SceneExports(ScenesModel model) {
        this.model = model;
    }

    /** Lets the selected placements show another asset, or another version of theirs. */
    public void replace(Asset asset, Optional<String> version) {
        model.withSelected(open -> {
            tell(open, asset, open.placements().replace(model.selected(), asset, version));
            return model.selected();
        });
    }

    /** Lets placements show another asset: those that were pinned are pinned to its ready version, the others follow. */
    void swap(List<SdfPath> paths, Asset asset) {
        model.withSelected(open -> {
            tell(open, asset, open.placements().replaceAsHeld(paths, asset));
            return model.selected();
        });
    }

    /** What was said of things that are not there any more. */
    private void tell(Scene open, Asset asset, Replaced replaced) {
        if (!replaced.lost().isEmpty()) {
            model.session()
                    .wrong(new PantryException(
                            open.file(),
                            Units.counted(replaced.lost().size(), "override")
                                    + " of what is not there any more; the first of them is for "
                                    + replaced.lost().getFirst()));
        }
        if (!replaced.dropped().isEmpty()) {
            model.session()
                    .wrong(new PantryException(
                            open.file(),
                            asset.card().name() + " does not offer what was chosen: "
                                    + String.join(", ", replaced.dropped())));
        }
    }

    /** Puts what is selected on a shelf of the first library that can be written, as a prefab. */
    public void makeAsset(String name, String shelf) {
        Optional<Library> library = model.session().shelving().present().stream()
                .filter(Library::writable)
                .findFirst();
        if (library.isEmpty() || model.sceneProperty().get().isEmpty()) {
            model.session().wrong(new PantryException("no library is open that " + name + " could be put into"));
            return;
        }
        Scene open = model.sceneProperty().get().get();
        Scene now = open.snapshot();
        List<SdfPath> chosen = List.copyOf(model.selectionProperty().get());
        model.keeping().autosave();
        model.session()
                .shelving()
                .change(
                        "shelving " + name,
                        library.get(),
                        Set.of(),
                        progress -> makeAsset(now)
                                .run(
                                        new MakeAsset.Source(now, chosen),
                                        library.get(),
                                        new MakeAsset.Options(name, AssetKind.PREFAB, shelf, List.of()),
                                        progress),
                        made -> {
                            model.session()
                                    .done(
                                            made.asset().card().name() + " stands on "
                                                    + made.asset().shelf()
                                                    + (made.droppedMemberships() == 0
                                                            ? ""
                                                            : "; of its drawers, " + made.droppedMemberships()
                                                                    + " members are left out, since they were not chosen"),
                                            Optional.of(() -> takeOff(library.get(), made.asset())));
                            boolean there = model.sceneProperty()
                                            .get()
                                            .filter(each -> each == open)
                                            .isPresent()
                                    && chosen.stream()
                                            .allMatch(path -> open.spec(path).isPresent());
                            if (there && !chosen.contains(open.root())) {
                                model.act(each -> model.selectionProperty()
                                        .set(Set.of(
                                                each.placements().substitute(chosen, made.asset(), made.origin()))));
                            }
                        },
                        model.session()::wrong);
    }

    private MakeAsset makeAsset(Scene scene) {
        Workbench workbench = model.session().workbench();
        return new MakeAsset(workbench.layers(scene.file()), workbench.renderCache());
    }

    private void takeOff(Library library, Asset asset) {
        model.session()
                .shelving()
                .change(
                        "taking off " + asset.card().name(),
                        library,
                        Set.of(asset.shelf()),
                        progress -> library.trash().discard(asset),
                        item -> model.session().done("put " + item.name() + " into the trash", Optional.empty()),
                        model.session()::wrong);
    }

    /** Publishes what is selected as an asset's next version. */
    public void publish(Asset asset, Library library, String note) {
        model.sceneProperty().get().ifPresent(open -> {
            Scene now = open.snapshot();
            List<SdfPath> chosen = List.copyOf(model.selectionProperty().get());
            model.session()
                    .shelving()
                    .change(
                            "publishing " + asset.card().name(),
                            library,
                            Set.of(asset.shelf()),
                            progress -> makeAsset(now)
                                    .publish(
                                            new MakeAsset.Source(now, chosen),
                                            library,
                                            new NextVersion(asset, VersionStatus.READY, note),
                                            progress),
                            published -> model.session()
                                    .done(
                                            asset.card().name() + " " + published.version() + " is published",
                                            Optional.empty()),
                            model.session()::wrong);
        });
    }

    /** Tells the asset that a placement shows: at once where it is known, and otherwise once it was looked for. */
    void whenShelved(Placement placement, Consumer<Shelved> then) {
        Libraries.Contents contents =
                model.session().shelving().contentsProperty().get();
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
        List<Library> libraries = model.session().shelving().present();
        model.session()
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
        return shelved(placement, model.session().shelving().present());
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
        model.sceneProperty().get().ifPresent(open -> open.placements()
                .at(path)
                .flatMap(this::shelved)
                .ifPresentOrElse(
                        home -> {
                            model.keeping().autosave();
                            Scene now = open.snapshot();
                            Optional<String> before = home.asset().ready();
                            model.session()
                                    .shelving()
                                    .change(
                                            "writing back " + path.name(),
                                            home.library(),
                                            Set.of(home.asset().shelf()),
                                            progress -> now.overrides()
                                                    .publish(
                                                            path,
                                                            note,
                                                            file -> Optional.of(home.library()),
                                                            model.session()
                                                                    .workbench()
                                                                    .prepSources(),
                                                            model.session()
                                                                    .workbench()
                                                                    .renderCache(),
                                                            progress),
                                            published -> {
                                                model.session()
                                                        .done(
                                                                home.asset()
                                                                                .card()
                                                                                .name() + " " + published.version()
                                                                        + " is published",
                                                                Optional.empty());
                                                if (model.sceneProperty()
                                                        .get()
                                                        .filter(each -> each == open)
                                                        .isPresent()) {
                                                    model.act(each -> {
                                                        each.overrides().follow(path, published);
                                                        each.attach(statuses(home, before, published.version()));
                                                    });
                                                }
                                            },
                                            model.session()::wrong);
                        },
                        () -> model.session()
                                .wrong(new PantryException(open.file(), path.name() + " is of no open library"))));
    }

    /** Taking back a write-back lets followers have what they had before; the version stays, retired. */
    private StageEditor.Effect statuses(Shelved home, Optional<String> before, String version) {
        return new StageEditor.Effect() {
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
        model.session()
                .shelving()
                .change(
                        "changing " + home.asset().card().name(),
                        home.library(),
                        Set.of(home.asset().shelf()),
                        progress -> {
                            change.accept(home.library().current(home.asset()));
                            return done;
                        },
                        told -> model.session().done(home.asset().card().name() + " " + told, Optional.empty()),
                        model.session()::wrong);
    }

    /** Cuts what is selected out into a section of its own. */
    public void cutSection(String name) {
        model.withSelected(open -> {
            open.autosave();
            return List.of(open.sections().cut(model.selected(), name));
        });
    }

    /** Takes the selected sections back into the scene. */
    public void joinSections() {
        model.withSelected(open -> model.selected().stream()
                .flatMap(path ->
                        open.sections().join(path, model.session().workbench().who()).stream())
                .toList());
    }

    /** Holds the selected section for oneself, or lets go of it. */
    public void hold(boolean wanted) {
        model.sceneProperty().get().ifPresent(open -> model.session()
                .attempt(() -> model.selected().forEach(path -> {
                    String who = model.session().workbench().who();
                    if (wanted) {
                        open.sections().reserve(path, who);
                    } else {
                        open.sections().release(path, who);
                    }
                    model.session().done((wanted ? "holding " : "let go of ") + path.name(), Optional.empty());
                    refreshSelection();
                })));
    }

    private void refreshSelection() {
        Set<SdfPath> chosen = model.selectionProperty().get();
        model.selectionProperty().set(Set.of());
        model.selectionProperty().set(chosen);
    }
}
