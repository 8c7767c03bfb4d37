package pantry.scene;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import pantry.base.Names;
import pantry.base.math.Vec3;
import pantry.library.Asset;
import pantry.usd.AssetPaths;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.Reference;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.Value;
import pantry.usd.edit.Transaction;
import pantry.usd.schema.TransformComponents;

/** A scene's uses of assets and of other files. */
public final class Placements {
    private static final Pattern SEALED = Pattern.compile("^(.*)/(v\\d{3,})/data/[^/]+$");

    private final SceneLayer scene;

    Placements(SceneLayer scene) {
        this.scene = scene;
    }

    /** The prims that refer to other files, in the order of the file. */
    public List<Placement> all() {
        return all(KnownPlacements.NOTHING);
    }

    /** As {@link #all}, but for those as they were that no change has concerned since; not to be asked within a change. */
    public List<Placement> again() {
        return all(scene.knownPlacements());
    }

    private List<Placement> all(KnownPlacements known) {
        List<Placement> placements = new ArrayList<>();
        collect(scene.layer().root(), SdfPath.ROOT, placements, known);
        SdfPath root = scene.root();
        scene.layer().prim(root).ifPresent(spec -> {
            Set<String> own = spec.childNames();
            for (String name : scene.childNames(root)) {
                if (!own.contains(name)) {
                    collect(root.child(name), scene.spec(root.child(name)).orElseThrow(), placements, known);
                }
            }
        });
        return placements;
    }

    private void collect(SdfPath at, PrimSpec prim, List<Placement> found, KnownPlacements known) {
        Optional<Placement> same = known.at(at);
        if (same.isPresent()) {
            found.add(same.get());
            return;
        }
        Optional<Reference> reference = reference(prim);
        if (reference.isPresent()) {
            Placement.Target target = target(reference.get().asset());
            Placement placement = target.placed(at, TransformComponents.read(prim));
            known.keep(placement);
            found.add(placement);
        } else {
            collect(prim, at, found, known);
        }
    }

    private void collect(PrimSpec parent, SdfPath path, List<Placement> found, KnownPlacements known) {
        Optional<List<Placement>> same = known.below(path);
        if (same.isPresent()) {
            found.addAll(same.get());
            return;
        }
        int before = found.size();
        for (PrimSpec prim : parent.children()) {
            collect(path.child(prim.name()), prim, found, known);
        }
        if (!parent.children().isEmpty()) {
            known.keep(path, found.subList(before, found.size()));
        }
    }

    private static Optional<Reference> reference(PrimSpec prim) {
        if (prim.metadata().get("references") instanceof Value.ReferenceEdit(ListEdit<Reference> edit)) {
            return edit.applyTo(List.of()).stream()
                    .filter(reference -> !reference.isInternal())
                    .findFirst();
        }
        return Optional.empty();
    }

    private Placement.Target target(String asset) {
        return scene.target(asset, this::find);
    }

    private Placement.Target find(String asset) {
        Path target = scene.layers().resolve(scene.layer(), asset).file();
        String slashed = target.toString().replace('\\', '/');
        Matcher sealed = SEALED.matcher(slashed);
        String version = sealed.matches() ? sealed.group(2) : "";
        Placement.Held held;
        if (scene.layers().gate().admit(target, asset, scene.file()).isEmpty()) {
            boolean refused = scene.layers().gate().refusals().stream()
                    .anyMatch(refusal -> refusal.written().equals(asset));
            held = refused ? Placement.Held.REFUSED : Placement.Held.MISSING;
        } else if (!version.isEmpty()) {
            held = Placement.Held.PINNED;
        } else if (slashed.endsWith("/ready.usda")) {
            held = Placement.Held.FOLLOWING;
        } else {
            held = Placement.Held.FILE;
        }
        return new Placement.Target(target, held, version);
    }

    /** What stands at a path, where that is a placement. */
    public Optional<Placement> at(SdfPath path) {
        return scene.spec(path).flatMap(prim -> reference(prim)
                .map(r -> target(r.asset()).placed(path, TransformComponents.read(prim))));
    }

    /**
     * Uses an asset: one more placement under a prim.
     *
     * @param version pinned to it; the ready version is followed where empty
     * @param name of the new prim; a number is put behind it where it is taken
     * @param under an existing prim; the scene's root where empty
     * @return the new prim's path
     */
    public SdfPath place(
            Asset asset, Optional<String> version, String name, TransformComponents placing, Optional<SdfPath> under) {
        return place(name, using(layerOf(asset, version), name, placing), under);
    }

    private Path layerOf(Asset asset, Optional<String> version) {
        Path target = version.map(asset::entryLayer).orElseGet(() -> {
            if (asset.ready().isEmpty()) {
                throw new SceneException(
                        scene.file(), "\"" + asset.card().name() + "\" has no ready version to follow");
            }
            return asset.readyLayer();
        });
        if (version.isPresent() && !asset.versions().contains(version.get())) {
            throw new SceneException(scene.file(), "\"" + asset.card().name() + "\" has no version " + version.get());
        }
        return target;
    }

    /**
     * Uses a layer that is not of a library; its unit and up axis are corrected by the placement's transform.
     *
     * @param part the one prim of it that is used; all of it where empty
     */
    public SdfPath placeFile(
            Path other, Optional<SdfPath> part, String name, TransformComponents placing, Optional<SdfPath> under) {
        PrimSpec prim = referring(other, part, name, placing);
        return place(name, prim, under);
    }

    /** A prim that refers to a file as it is. */
    PrimSpec referring(Path other, Optional<SdfPath> part, String name, TransformComponents placing) {
        return new Referring(scene.layers(), scene.folder())
                .to(other.toAbsolutePath().normalize(), part, Names.identifier(name), placing);
    }

    private PrimSpec using(Path target, String name, TransformComponents placing) {
        PrimSpec prim = new PrimSpec(Specifier.DEF, Referring.typeFor(scene.layers(), target), Names.identifier(name));
        prim.setReferences(Reference.to(AssetPaths.relative(scene.folder(), target)));
        prim.metadata().put("instanceable", new Value.Bool(true));
        placing.write(prim);
        return prim;
    }

    private SdfPath place(String name, PrimSpec prim, Optional<SdfPath> under) {
        SdfPath parent = under.orElseGet(scene::root);
        if (scene.spec(parent).isEmpty()) {
            throw new SceneException(scene.file(), "there is no <" + parent + "> to place anything under");
        }
        return scene.editor().change("placed " + name, edits -> add(edits, parent, name, prim));
    }

    private static SdfPath add(Transaction edits, SdfPath parent, String name, PrimSpec prim) {
        PrimSpec free = prim.copyAs(ChildNames.free(edits, parent, name));
        if (!Names.identifier(name).replace('_', ' ').equals(name)) {
            // A path cannot have all the signs that a name has.
            free.metadata().put("displayName", new Value.Text(name));
        }
        edits.add(parent, free);
        return parent.child(free.name());
    }

    /**
     * Lets a placement show another asset or version, in the same place and with its overrides.
     *
     * @param version pinned to it; the ready version is followed where empty
     */
    public Replaced replace(SdfPath path, Asset asset, Optional<String> version) {
        return replace(List.of(path), asset, held -> version);
    }

    /** As above, of several, in one change. */
    public Replaced replace(Collection<SdfPath> paths, Asset asset, Optional<String> version) {
        return replace(paths, asset, held -> version);
    }

    /**
     * Lets placements show another asset: those that were pinned are pinned to its ready version, the others follow it.
     *
     * @throws SceneException where one is pinned, and no version is ready
     */
    public Replaced replaceAsHeld(Collection<SdfPath> paths, Asset asset) {
        return replace(
                paths,
                asset,
                held -> held != Placement.Held.PINNED
                        ? Optional.empty()
                        : Optional.of(asset.ready()
                                .orElseThrow(() -> new SceneException(
                                        scene.file(),
                                        asset.card().name() + " has no ready version that could be pinned"))));
    }

    private Replaced replace(
            Collection<SdfPath> paths, Asset asset, Function<Placement.Held, Optional<String>> version) {
        Map<SdfPath, Reference> references = new LinkedHashMap<>();
        Set<String> verbs = new LinkedHashSet<>();
        for (SdfPath path : paths) {
            Optional<Placement> before = at(path);
            Optional<String> now = version.apply(before.map(Placement::held).orElse(Placement.Held.FILE));
            references.put(path, Reference.to(AssetPaths.relative(scene.folder(), layerOf(asset, now))));
            boolean same = before.filter(each -> each.layer().startsWith(asset.folder()))
                    .isPresent();
            verbs.add(!same ? "replaced" : now.isPresent() ? "pinned" : "let follow");
        }
        String what = SceneLayer.named(paths);
        String name =
                switch (verbs.size() == 1 ? verbs.iterator().next() : "replaced") {
                    case "pinned" ->
                        "pinned " + what
                                + version.apply(Placement.Held.PINNED)
                                        .map(v -> " to " + v)
                                        .orElse("");
                    case "let follow" -> "let " + what + " follow what is ready";
                    default -> "replaced " + what + " by " + asset.card().name();
                };
        return new Structure(scene).replace(name, references);
    }

    /**
     * What a placement would say of things that are no longer there, if it showed something else.
     *
     * @param version as in {@link #replace}
     */
    public List<SdfPath> wouldLose(SdfPath path, Asset asset, Optional<String> version) {
        return new Placements(scene.snapshot()).replace(path, asset, version).lost();
    }

    /**
     * What several placements would say of things that are no longer there, if they showed another asset, as
     * {@link #replaceAsHeld} lets them.
     */
    public List<SdfPath> wouldLose(Collection<SdfPath> paths, Asset asset) {
        // Of what nothing is said, nothing can be lost.
        List<SdfPath> said = paths.stream()
                .filter(path -> scene.spec(path)
                        .filter(prim -> !prim.children().isEmpty())
                        .isPresent())
                .toList();
        return said.isEmpty()
                ? List.of()
                : new Placements(scene.snapshot()).replaceAsHeld(said, asset).lost();
    }

    /**
     * Puts a placement of an asset in the place of objects that it was made of.
     *
     * @param at where its origin stands, metres
     */
    public SdfPath substitute(Collection<SdfPath> paths, Asset asset, Vec3 at) {
        return scene.editor()
                .change(
                        "replaced " + SceneLayer.named(paths) + " by "
                                + asset.card().name(),
                        edits -> {
                            paths.forEach(edits::remove);
                            String name = asset.card().name();
                            return add(
                                    edits,
                                    scene.root(),
                                    name,
                                    using(
                                            layerOf(asset, Optional.empty()),
                                            name,
                                            TransformComponents.ORIGIN.withMove(at)));
                        });
    }
}
