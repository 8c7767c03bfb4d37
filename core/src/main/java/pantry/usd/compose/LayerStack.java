package pantry.usd.compose;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;

/** A layer with its sublayers, strongest first. */
final class LayerStack {
    private final List<Member> members = new ArrayList<>();

    /** One layer of the stack and how its time maps to the root's. */
    record Member(Layer layer, LayerOffset offset) {}

    /** A prim spec and the layer that has it. */
    record Opinion(Layer layer, PrimSpec spec) {}

    private LayerStack() {}

    /** The stack below a layer; sublayers that cannot be opened are reported and left out. */
    static LayerStack of(Layer root, LayerOpener opener) {
        LayerStack stack = new LayerStack();
        stack.add(root, LayerOffset.NONE, opener, new ArrayList<>());
        return stack;
    }

    private void add(Layer layer, LayerOffset offset, LayerOpener opener, List<Layer> above) {
        members.add(new Member(layer, offset));
        above.add(layer);
        for (Layer.SubLayer sub : layer.subLayers()) {
            Path file = AssetPaths.resolve(layer, sub.asset());
            boolean cycle =
                    above.stream().anyMatch(l -> l.file().filter(file::equals).isPresent());
            if (cycle) {
                opener.problem(CompositionProblem.Kind.CYCLE, sub.asset(), "the sublayer brings in itself");
                continue;
            }
            opener.open(layer, sub.asset()).ifPresent(sublayer -> {
                add(sublayer, offset.after(sub.offset()), opener, above);
            });
        }
        above.removeLast();
    }

    Layer root() {
        return members.getFirst().layer();
    }

    List<Layer> layers() {
        return members.stream().map(Member::layer).toList();
    }

    /** The specs at a path, strongest first. */
    List<Opinion> opinions(SdfPath path) {
        List<Opinion> opinions = new ArrayList<>(members.size());
        for (Member member : members) {
            member.layer().prim(path).ifPresent(spec -> opinions.add(new Opinion(member.layer(), spec)));
        }
        return opinions;
    }
}
