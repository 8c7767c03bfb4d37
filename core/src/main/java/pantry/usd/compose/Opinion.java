package pantry.usd.compose;

import java.util.List;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.SdfPath;
import pantry.usd.Spec;

/**
 * What one layer says of a prim or property, and how it comes to be heard.
 *
 * @param layer that says it
 * @param path of the spec in that layer, variants included
 * @param spec what it says
 * @param offset how the layer's time maps to the stage's
 * @param chain the sites that lead there, the stage's own first
 */
public record Opinion(Layer layer, SdfPath path, Spec spec, LayerOffset offset, List<Site> chain) {
    public Opinion {
        chain = List.copyOf(chain);
    }

    /** A path in a layer stack, and the arc by which it was reached. */
    public record Site(Layer layer, SdfPath path, Arc arc) {
        @Override
        public String toString() {
            return layer.name() + " <" + path + ">";
        }
    }

    /** The arc by which the opinion comes in: the last of the chain. */
    public Arc arc() {
        return chain.getLast().arc();
    }
}
