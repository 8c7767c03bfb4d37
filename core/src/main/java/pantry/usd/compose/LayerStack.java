package pantry.usd.compose;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import pantry.usd.AssetLocation;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;

/** A layer with its sublayers, strongest first. */
final class LayerStack {
    /** Time codes per second where a layer says nothing (AOUSD Core Specification, layer metadata; from memory). */
    private static final double USUAL_RATE = 24;

    private final List<Member> members = new ArrayList<>();
    private Optional<SdfPath> defaultPrim = Optional.empty();
    private double rate = USUAL_RATE;
    private final Budget budget;
    private @Nullable Boolean refinesClasses;

    /** One layer of the stack and how its time maps to the root's. */
    record Member(Layer layer, LayerOffset offset) {}

    /** A prim spec, the layer that has it, and how that layer's time maps to the stack's. */
    record SpecAt(Member member, PrimSpec spec) {
        Layer layer() {
            return member.layer();
        }
    }

    private LayerStack(Budget budget) {
        this.budget = budget;
    }

    /** What composing the stage may cost that this belongs to. */
    Budget budget() {
        return budget;
    }

    /** The stack below a layer; sublayers that cannot be opened are reported and left out. */
    static LayerStack of(Layer root, LayerOpener opener) {
        LayerStack stack = new LayerStack(opener.budget());
        stack.add(root, LayerOffset.NONE, opener, new ArrayList<>());
        stack.defaultPrim = root.defaultPrimPath();
        stack.rate = rate(root);
        return stack;
    }

    private void add(Layer layer, LayerOffset offset, LayerOpener opener, List<Layer> above) {
        members.add(new Member(layer, offset));
        budget.layers(members.size(), above.size(), layer.name());
        if (layer.metadata().containsKey("relocates")) {
            opener.problem(
                    CompositionProblem.Kind.NOT_APPLIED,
                    layer.name(),
                    "the relocates of " + layer.name() + " are kept, but not applied");
        }
        above.add(layer);
        for (Layer.SubLayer sub : layer.subLayers()) {
            AssetLocation place = opener.resolve(layer, sub.asset());
            boolean cycle = above.stream()
                    .anyMatch(l -> l.location().filter(place::equals).isPresent());
            if (cycle) {
                opener.problem(
                        CompositionProblem.Kind.CYCLE,
                        sub.asset(),
                        "the sublayer " + sub.asset() + " of " + layer.name() + " brings in itself");
                continue;
            }
            opener.open(place, sub.asset())
                    .ifPresent(sublayer -> add(
                            sublayer, offset.after(inTime(sub.offset(), rate(layer), rate(sublayer))), opener, above));
        }
        above.removeLast();
    }

    /** The offset of an arc to another stack, with the ratio of the two's time codes per second put in. */
    LayerOffset inTime(LayerOffset offset, LayerStack inner) {
        return inTime(offset, rate, inner.rate);
    }

    private static LayerOffset inTime(LayerOffset offset, double outer, double inner) {
        double ratio = outer / inner;
        return ratio == 1 ? offset : new LayerOffset(offset.offset(), offset.scale() * ratio);
    }

    private static double rate(Layer layer) {
        return layer.number("timeCodesPerSecond")
                .or(() -> layer.number("framesPerSecond"))
                .filter(rate -> rate > 0)
                .orElse(USUAL_RATE);
    }

    Layer root() {
        return members.getFirst().layer();
    }

    /** The prim that references without a path mean; after an edit of it the stage is opened anew. */
    Optional<SdfPath> defaultPrim() {
        return defaultPrim;
    }

    List<Layer> layers() {
        return members.stream().map(Member::layer).toList();
    }

    /** Whether root prims may say something of classes: whether there are any that are classes or overrides. */
    boolean refinesClasses() {
        Boolean known = refinesClasses;
        if (known == null) {
            known = members.stream()
                    .flatMap(member -> member.layer().rootPrims().stream())
                    .anyMatch(prim -> prim.specifier() != Specifier.DEF);
            refinesClasses = known;
        }
        return known;
    }

    /** Its layers were edited. */
    void edited() {
        refinesClasses = null;
    }

    /** The specs at a path, strongest first. */
    List<SpecAt> specs(SdfPath path) {
        if (members.size() == 1) {
            Member only = members.getFirst();
            return only.layer()
                    .prim(path)
                    .map(spec -> List.of(new SpecAt(only, spec)))
                    .orElse(List.of());
        }
        List<SpecAt> specs = new ArrayList<>(members.size());
        for (Member member : members) {
            member.layer().prim(path).ifPresent(spec -> specs.add(new SpecAt(member, spec)));
        }
        return specs;
    }
}
