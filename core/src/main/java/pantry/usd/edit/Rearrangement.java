package pantry.usd.edit;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
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
    private final EditLog log;

    Rearrangement(EditLog log) {
        this.log = log;
    }

    void remove(SdfPath path) {
        checkOwn(path, "removed; switch it off instead");
        for (Place place : places(path)) {
            run(LayerEdit.Child.of(place.layer, place.path.parent(), path.name(), null));
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
            SdfPath target = place.moved(common, to);
            PrimSpec spec = LayerEdit.spec(place.layer, place.path);
            int position = Ordered.position(
                    LayerEdit.spec(place.layer, place.path.parent()).childNames(), from.name());
            run(LayerEdit.Child.of(place.layer, place.path.parent(), from.name(), null));
            log.ensure(place.layer, target.parent(), Specifier.OVER);
            PrimSpec moved = from.name().equals(to.name()) ? spec : spec.copyAs(to.name());
            LayerEdit.Child added = LayerEdit.Child.of(place.layer, target.parent(), to.name(), moved);
            boolean renamed = place.path.parent().equals(target.parent());
            run(renamed ? added.at(position) : added);
            keepOrder(place, from.name(), renamed ? Optional.of(to.name()) : Optional.empty());
        }
        for (Layer layer : layers()) {
            PathRemapping.follow(log, layer, SdfPath.ROOT, path -> path.replacePrefix(from, to));
            if (layer.defaultPrimPath().filter(from::equals).isPresent()) {
                String name = to.depth() == 1 ? to.name() : to.toString();
                run(LayerEdit.Field.of(layer, SdfPath.ROOT, "defaultPrim", new Value.Token(name)));
            }
        }
    }

    /** Renames or removes a child in what its parent says of the order of its children. */
    private void keepOrder(Place place, String name, Optional<String> newName) {
        SdfPath parent = place.path.parent();
        if (LayerEdit.spec(place.layer, parent).metadata().get("primOrder") instanceof Value.Strings(List<String> order)
                && order.contains(name)) {
            List<String> changed = order.stream()
                    .flatMap(each -> each.equals(name) ? newName.stream() : Stream.of(each))
                    .toList();
            run(LayerEdit.Field.of(place.layer, parent, "primOrder", new Value.Strings(changed)));
        }
    }

    void copy(SdfPath from, SdfPath to) {
        if (to.startsWith(from)) {
            throw new UsdException("<" + from + "> cannot be copied into itself, to <" + to + ">");
        }
        checkOwn(from, "copied; refer to what brings it in instead");
        checkFree(to);
        SdfPath common = common(from, to);
        UnaryOperator<SdfPath> follow = path -> path.replacePrefix(from, to);
        for (Place place : places(from)) {
            SdfPath target = place.moved(common, to);
            log.ensure(place.layer, target.parent(), Specifier.OVER);
            PrimSpec copy = LayerEdit.spec(place.layer, place.path).copyAs(to.name());
            run(LayerEdit.Child.of(place.layer, target.parent(), to.name(), copy));
            PathRemapping.follow(log, place.layer, target, follow);
        }
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
        SdfPath moved(SdfPath common, SdfPath to) {
            SdfPath above = path;
            while (!above.withoutVariants().equals(common)) {
                if (above.toString().endsWith("}")) {
                    throw new UsdException("<" + path + "> of " + layer.name()
                            + " is said in a variant, which cannot be left; move it within <" + common + ">");
                }
                above = above.parent();
            }
            return to.replacePrefix(common, above);
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
