package pantry.intake;

import java.io.IOException;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import pantry.base.IoProblems;
import pantry.exchange.usd.Links;
import pantry.library.Library;
import pantry.library.LibraryException;
import pantry.library.Owner;
import pantry.library.Uses;
import pantry.model.Model;
import pantry.model.ShaderNetwork;
import pantry.model.Texture;

/** The references by which a version uses material parts of its library; parts from elsewhere are written out in it. */
final class PartLinks {
    private final Library library;
    private final Function<String, Path> standing;
    private final Map<ShaderNetwork.Part, Optional<String>> known = new HashMap<>();

    /** @param standing where the asset's folder will stand, by the name that it has */
    PartLinks(Library library, Function<String, Path> standing) {
        this.library = library;
        this.standing = standing;
    }

    /** Of a version that is being made. @param textures where its images lie */
    Links in(Path data, String slug, TextureStore textures) {
        return new Links() {
            @Override
            public String image(Texture texture) {
                return textures.path(texture);
            }

            @Override
            public Optional<String> part(ShaderNetwork.Part part) {
                return known.computeIfAbsent(part, each -> reference(each, data, slug));
            }
        };
    }

    /** A model without the images of parts that are referenced, which stay where the parts are. */
    Model withoutPartImages(Model model) {
        return model.withMaterials(material -> material.network()
                .map(network -> network.without(
                        graph -> graph.part().flatMap(this::owner).isPresent()))
                .map(material::with)
                .orElse(material));
    }

    private Optional<String> reference(ShaderNetwork.Part part, Path data, String slug) {
        return owner(part).map(owner -> {
            Path folder = standing.apply(slug);
            Path building = Uses.building(folder, data);
            try {
                return Uses.link(folder, building, owner.asset(), owner.version());
            } catch (IOException e) {
                throw new LibraryException(
                        building, "the layers of what is used cannot be written: " + IoProblems.describe(e), e);
            }
        });
    }

    private Optional<Owner> owner(ShaderNetwork.Part part) {
        return library.owner(Uses.through(part.layer()));
    }
}
