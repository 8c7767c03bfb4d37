package pantry.usd.edit;

import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import pantry.usd.Layer;
import pantry.usd.Ordered;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.UsdException;
import pantry.usd.Value;
import pantry.usd.compose.Opinion;
import pantry.usd.compose.Prim;

/** Removes, moves and copies prims in all layers of a stack. */
final class Rearrangement {
    /** More children than these come or go in one edit. */
    private static final int FEW = 8;

    private final EditLog log;

    Rearrangement(EditLog log) {
        this.log = log;
    }

    /** @param paths none below another */
    void remove(Collection<SdfPath> paths) {
        paths.forEach(path -> checkOwn(path, "removed; switch it off instead"));
        Map<Place, Set<String>> going = new LinkedHashMap<>();
        for (SdfPath path : paths) {
            for (Place place : places(path)) {
                going.computeIfAbsent(place.parent(), parent -> new LinkedHashSet<>())
                        .add(path.name());
            }
        }
        going.forEach(this::takeOut);
    }

    private void takeOut(Place parent, Set<String> names) {
        if (names.size() <= FEW) {
            names.forEach(name -> run(LayerEdit.Child.of(parent.layer, parent.path, name, null)));
        } else {
            List<PrimSpec> before =
                    List.copyOf(LayerEdit.spec(parent.layer, parent.path).children());
            List<PrimSpec> after =
                    before.stream().filter(spec -> !names.contains(spec.name())).toList();
            run(new LayerEdit.Children(parent.layer, parent.path, before, after));
        }
    }

    /** Adds prims as the last children of another. */
    void add(Layer layer, SdfPath parent, List<PrimSpec> specs) {
        putIn(new Place(layer, parent), specs);
    }

    /** @param specs of names that nothing has there */
    private void putIn(Place parent, List<PrimSpec> specs) {
        log.ensure(parent.layer, parent.path, Specifier.OVER);
        if (specs.size() <= FEW) {
            specs.forEach(spec -> run(LayerEdit.Child.of(parent.layer, parent.path, spec.name(), spec)));
        } else {
            List<PrimSpec> before =
                    List.copyOf(LayerEdit.spec(parent.layer, parent.path).children());
            List<PrimSpec> after = new ArrayList<>(before);
            after.addAll(specs);
            run(new LayerEdit.Children(parent.layer, parent.path, before, List.copyOf(after)));
        }
    }

    /** Moves prims below others at once; see {@link Transaction#moveAll}. */
    void move(Map<SdfPath, SdfPath> moves) {
        if (moves.size() == 1
                || moves.entrySet().stream().anyMatch(move -> isRenaming(move.getKey(), move.getValue()))) {
            moves.forEach(this::move);
            return;
        }
        if (Set.copyOf(moves.values()).size() < moves.size()) {
            throw new UsdException("two prims cannot be moved to one place");
        }
        moves.forEach((from, to) -> {
            if (PathRemapping.moved(to.parent(), moves).isPresent()) {
                throw new UsdException("<" + from + "> cannot be moved below what moves itself, to <" + to + ">");
            }
            checkOwn(from, "moved or renamed");
            checkFree(to);
        });
        Map<Place, Set<String>> going = new LinkedHashMap<>();
        Map<Place, List<PrimSpec>> coming = new LinkedHashMap<>();
        moves.forEach((from, to) -> {
            SdfPath common = common(from, to);
            for (Place place : places(from)) {
                PrimSpec spec = LayerEdit.spec(place.layer, place.path);
                going.computeIfAbsent(place.parent(), parent -> new LinkedHashSet<>())
                        .add(from.name());
                coming.computeIfAbsent(place.moved(common, to).parent(), parent -> new ArrayList<>())
                        .add(from.name().equals(to.name()) ? spec : spec.copyAs(to.name()));
            }
        });
        going.forEach((parent, names) -> {
            takeOut(parent, names);
            keepOrder(parent, names::contains, name -> Optional.empty());
        });
        coming.forEach(this::putIn);
        follow(path -> PathRemapping.moved(path, moves).orElse(path));
    }

    private static boolean isRenaming(SdfPath from, SdfPath to) {
        return from.parent().equals(to.parent());
    }

    /** Lets what refers to prims that have moved refer to where they are. */
    private void follow(UnaryOperator<SdfPath> mapping) {
        for (Layer layer : layers()) {
            PathRemapping.follow(log, layer, SdfPath.ROOT, mapping);
            layer.defaultPrimPath()
                    .filter(path -> !mapping.apply(path).equals(path))
                    .map(mapping)
                    .ifPresent(to -> {
                        String name = to.depth() == 1 ? to.name() : to.toString();
                        run(LayerEdit.Field.of(layer, SdfPath.ROOT, "defaultPrim", new Value.Token(name)));
                    });
        }
    }

    void move(SdfPath from, SdfPath to) {
        if (from.equals(to)) {
            return;
        }
        if (to.startsWith(from)) {
            throw new UsdException("<" + from + "> cannot be moved into itself, to <" + to + ">");
        }
        checkOwn(from, "moved or renamed");
        checkFree(to);
        SdfPath common = common(from, to);
        for (Place place : places(from)) {
            SdfPath target = place.moved(common, to).path;
            PrimSpec spec = LayerEdit.spec(place.layer, place.path);
            int position = Ordered.position(
                    LayerEdit.spec(place.layer, place.path.parent()).childNames(), from.name());
            run(LayerEdit.Child.of(place.layer, place.path.parent(), from.name(), null));
            log.ensure(place.layer, target.parent(), Specifier.OVER);
            PrimSpec moved = from.name().equals(to.name()) ? spec : spec.copyAs(to.name());
            LayerEdit.Child added = LayerEdit.Child.of(place.layer, target.parent(), to.name(), moved);
            boolean renamed = isRenaming(place.path, target);
            run(renamed ? added.at(position) : added);
            keepOrder(place.parent(), from.name()::equals, name -> renamed ? Optional.of(to.name()) : Optional.empty());
        }
        follow(path -> path.replacePrefix(from, to));
    }

    /** Renames or removes children in what their parent says of the order of its children. */
    private void keepOrder(Place parent, Predicate<String> moved, Function<String, Optional<String>> newName) {
        if (LayerEdit.spec(parent.layer, parent.path).metadata().get("primOrder")
                        instanceof Value.Strings(List<String> order)
                && order.stream().anyMatch(moved)) {
            List<String> changed = order.stream()
                    .flatMap(each -> moved.test(each) ? newName.apply(each).stream() : Stream.of(each))
                    .toList();
            run(LayerEdit.Field.of(parent.layer, parent.path, "primOrder", new Value.Strings(changed)));
        }
    }

    /** @param sources what is copied, by the paths of the copies */
    void copy(Map<SdfPath, SdfPath> sources) {
        Map<Place, List<PrimSpec>> coming = new LinkedHashMap<>();
        sources.forEach((to, from) -> {
            if (to.startsWith(from)) {
                throw new UsdException("<" + from + "> cannot be copied into itself, to <" + to + ">");
            }
            checkOwn(from, "copied; refer to what brings it in instead");
            checkFree(to);
            SdfPath common = common(from, to);
            for (Place place : places(from)) {
                PrimSpec copy = LayerEdit.spec(place.layer, place.path).copyAs(to.name());
                PathRemapping.apply(copy, path -> path.replacePrefix(from, to));
                coming.computeIfAbsent(place.moved(common, to).parent(), parent -> new ArrayList<>())
                        .add(copy);
            }
        });
        coming.forEach(this::putIn);
    }

    private void run(LayerEdit edit) {
        log.run(edit);
    }

    private List<Layer> layers() {
        return log.stage().layerStack();
    }

    private void checkFree(SdfPath to) {
        if (log.stage().prim(to).isPresent()) {
            throw new UsdException("there is already a prim at <" + to + ">");
        }
        if (log.stage().prim(to.parent()).isEmpty()) {
            throw new UsdException("there is no <" + to.parent() + "> to hold <" + to.name() + ">");
        }
    }

    /** The prim must be said by the stack's own layers alone, or else it would still be where it was. */
    private void checkOwn(SdfPath path, String what) {
        if (path.equals(SdfPath.ROOT)) {
            throw new UsdException("the root cannot be " + what);
        }
        Prim prim = log.stage().prim(path).orElseThrow(() -> new UsdException("there is no prim at <" + path + ">"));
        Optional<Opinion> foreign = prim.broughtInFromAbove();
        if (foreign.isPresent()) {
            throw new UsdException("<" + path + "> is brought in with what is above it, from "
                    + foreign.get().layer().name() + " <" + foreign.get().path() + ">, and cannot be " + what);
        }
        for (Place place : places(path)) {
            EditTarget.checkWritable(place.layer, log.stage().rootLayer());
        }
    }

    /** Where a layer speaks of a prim: its path there may lead through variants. */
    private record Place(Layer layer, SdfPath path) {
        /**
         * The place at which the layer is to speak of it under another path.
         *
         * @param common the path that both have in common
         */
        Place moved(SdfPath common, SdfPath to) {
            SdfPath above = path;
            while (!above.withoutVariants().equals(common)) {
                if (above.toString().endsWith("}")) {
                    throw new UsdException("<" + path + "> of " + layer.name()
                            + " is said in a variant, which cannot be left; move it within <" + common + ">");
                }
                above = above.parent();
            }
            return new Place(layer, to.replacePrefix(common, above));
        }

        Place parent() {
            return new Place(layer, path.parent());
        }
    }

    /** All places at which the stack's layers speak of a prim, in variants that are not selected too. */
    private List<Place> places(SdfPath path) {
        List<Place> places = new ArrayList<>();
        for (Layer layer : layers()) {
            find(layer, layer.root(), SdfPath.ROOT, path.names(), places);
        }
        return places;
    }

    /** The contents of the prim's own variants are not among them, since they move along with it. */
    private static void find(Layer layer, PrimSpec spec, SdfPath at, List<String> names, List<Place> found) {
        if (names.isEmpty()) {
            found.add(new Place(layer, at));
            return;
        }
        spec.child(names.getFirst())
                .ifPresent(
                        child -> find(layer, child, at.child(names.getFirst()), names.subList(1, names.size()), found));
        spec.variantSets().forEach((set, variants) -> variants.values()
                .forEach(variant -> find(layer, variant.contents(), at.variant(set, variant.name()), names, found)));
    }

    private static SdfPath common(SdfPath one, SdfPath other) {
        SdfPath common = one.parent();
        while (!other.startsWith(common)) {
            common = common.parent();
        }
        return common;
    }
}
