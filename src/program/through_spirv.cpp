#include "program/through_spirv.hpp"

#if defined(YURVO_WITH_TRANSLATION)

#include <algorithm>
#include <cstring>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "program/source_text.hpp"
#include "scene/text_pattern.hpp"

#define ENABLE_HLSL // as Debian's package was built; its headers hide what goes with it otherwise
#include <glslang/Public/ResourceLimits.h>
#include <glslang/Public/ShaderLang.h>
#include <glslang/SPIRV/GlslangToSpv.h>
#include <spirv-tools/libspirv.h>
#include <spirv_cross/spirv_cross_c.h>

namespace yurvo::inline v0_1::program {

namespace {

// HLSL's lit(n·l, n·h, m) is (1, max(n·l, 0), (n·h)^m where neither is below 0, 1), as Direct3D's compilers
// have it; glslang multiplies n·h by m.
const char* const lit_of_hlsl = R"(
float4 yurvo_lit(float cosine, float highlight, float exponent) {
    return float4(1, max(cosine, 0), cosine < 0 || highlight < 0 ? 0 : pow(highlight, exponent), 1);
}
#define lit(cosine, highlight, exponent) yurvo_lit((cosine), (highlight), (exponent))
)";

// Whether a source calls lit() and has none of its own.
bool calls_lit(const std::string& source) {
    static const text_pattern called(R"(\blit\s*\()");
    static const text_pattern own(R"([\w>]\s+lit\s*\([^)]*\)\s*\{|define\s+lit\b)");
    const std::string text = without_comments(source);
    return called.find(text).has_value() && !own.find(text).has_value();
}

std::vector<unsigned> to_spirv(const shader_program& the_program, const shader_stage& stage, bool vertex) {
    static const bool started = glslang::InitializeProcess();
    (void)started;
    const EShLanguage language = vertex ? EShLangVertex : EShLangFragment;
    const bool hlsl = the_program.language == shading_language::hlsl;
    glslang::TShader shader(language);
    const char* const text = stage.source.c_str();
    shader.setStrings(&text, 1);
    shader.setEntryPoint(stage.entry.c_str());
    shader.setSourceEntryPoint(stage.entry.c_str());
    shader.setEnvInput(hlsl ? glslang::EShSourceHlsl : glslang::EShSourceGlsl, language,
                       glslang::EShClientVulkan, 100);
    shader.setEnvClient(glslang::EShClientVulkan, glslang::EShTargetVulkan_1_0);
    shader.setEnvTarget(glslang::EShTargetSpv, glslang::EShTargetSpv_1_0);
    shader.setAutoMapLocations(true);
    shader.setAutoMapBindings(true);
    if (hlsl) {
        shader.setEnvTargetHlslFunctionality1();
        if (calls_lit(stage.source)) {
            shader.setPreamble(lit_of_hlsl);
        }
    }
    const auto messages = static_cast<EShMessages>(EShMsgSpvRules | EShMsgVulkanRules |
                                                   (hlsl ? EShMsgReadHlsl : EShMsgDefault));
    if (!shader.parse(GetDefaultResources(), 450, false, messages)) {
        throw complaint(stage, stage.source, shader.getInfoLog());
    }
    glslang::TProgram program;
    program.addShader(&shader);
    if (!program.link(messages) || !program.mapIO()) {
        throw complaint(stage, stage.source, program.getInfoLog());
    }
    std::vector<unsigned> words;
    glslang::GlslangToSpv(*program.getIntermediate(language), words);
    return words;
}

// The words of a SPIR-V file.
std::vector<unsigned> words_of(const shader_stage& stage) {
    constexpr unsigned magic = 0x07230203;
    std::vector<unsigned> words(stage.source.size() / 4);
    if (!words.empty()) {
        std::memcpy(words.data(), stage.source.data(), 4 * words.size());
    }
    if (stage.source.size() % 4 != 0 || words.size() < 5 || words[0] != magic) {
        throw error({stage.file, 0, 0}, "it is no SPIR-V", "a module as a compiler wrote it, little-endian");
    }
    // What is no valid module must not reach the translator, which trusts its input.
    const spv_context context = spvContextCreate(SPV_ENV_UNIVERSAL_1_5);
    spv_diagnostic said = nullptr;
    spv_const_binary_t binary{words.data(), words.size()};
    const bool valid = spvValidate(context, &binary, &said) == SPV_SUCCESS;
    const std::string wrong = said != nullptr && said->error != nullptr ? first_line(said->error) : "";
    spvDiagnosticDestroy(said);
    spvContextDestroy(context);
    if (!valid) {
        throw error({stage.file, 0, 0}, "it is no valid SPIR-V module: " + wrong,
                    "the module as a compiler wrote it");
    }
    return words;
}

class cross_compiler {
    spvc_context context_ = nullptr;
    spvc_compiler compiler_ = nullptr;
    const shader_stage& stage_;

    void hold(spvc_result result) const {
        if (result != SPVC_SUCCESS) {
            const std::string why = spvc_context_get_last_error_string(context_);
            if (why.find("cannot be expressed") !=
                std::string::npos) { // as HLSL packs a float3 after a float
                throw error(
                    {stage_.file, 0, 0}, "a vector in a block begins where no layout of GLSL can put it",
                    "each float3 or float4 at a multiple of 16 bytes, by another order or numbers between");
            }
            throw error({stage_.file, 0, 0}, why, source_remedy);
        }
    }
    template <class Use> void each(const spvc_resources& value, spvc_resource_type type, Use&& use) {
        const spvc_reflected_resource* list = nullptr;
        std::size_t count = 0;
        hold(spvc_resources_get_resource_list_for_type(value, type, &list, &count));
        for (std::size_t i = 0; i < count; ++i) {
            use(list[i]);
        }
    }

  public:
    cross_compiler(const std::vector<unsigned>& words, const shader_stage& stage) : stage_(stage) {
        if (spvc_context_create(&context_) != SPVC_SUCCESS) {
            throw std::bad_alloc();
        }
        spvc_parsed_ir parsed = nullptr;
        hold(spvc_context_parse_spirv(context_, words.data(), words.size(), &parsed));
        hold(spvc_context_create_compiler(context_, SPVC_BACKEND_GLSL, parsed,
                                          SPVC_CAPTURE_MODE_TAKE_OWNERSHIP, &compiler_));
        spvc_compiler_options options = nullptr;
        hold(spvc_compiler_create_compiler_options(compiler_, &options));
        spvc_compiler_options_set_uint(options, SPVC_COMPILER_OPTION_GLSL_VERSION, 450);
        spvc_compiler_options_set_bool(options, SPVC_COMPILER_OPTION_GLSL_ES, SPVC_FALSE);
        spvc_compiler_options_set_bool(options, SPVC_COMPILER_OPTION_GLSL_VULKAN_SEMANTICS, SPVC_FALSE);
        spvc_compiler_options_set_bool(options, SPVC_COMPILER_OPTION_GLSL_ENABLE_420PACK_EXTENSION,
                                       SPVC_TRUE);
        hold(spvc_compiler_install_compiler_options(compiler_, options));
    }
    ~cross_compiler() { spvc_context_destroy(context_); }
    cross_compiler(const cross_compiler&) = delete;
    cross_compiler(cross_compiler&&) = delete;
    cross_compiler& operator=(const cross_compiler&) = delete;
    cross_compiler& operator=(cross_compiler&&) = delete;

    // Of SPIR-V from elsewhere: its entry point.
    void enter(const std::string& entry, bool vertex) {
        const spvc_entry_point* points = nullptr;
        std::size_t count = 0;
        hold(spvc_compiler_get_entry_points(compiler_, &points, &count));
        const SpvExecutionModel model = vertex ? SpvExecutionModelVertex : SpvExecutionModelFragment;
        std::string known;
        for (std::size_t i = 0; i < count; ++i) {
            if (points[i].execution_model == model) {
                if (points[i].name == entry) {
                    hold(spvc_compiler_set_entry_point(compiler_, entry.c_str(), model));
                    return;
                }
                known += (known.empty() ? "`" : ", `") + std::string(points[i].name) + "`";
            }
        }
        throw error({stage_.file, 0, 0},
                    std::string("it has no ") + (vertex ? "vertex" : "fragment") + " entry point `" + entry +
                        "`",
                    known.empty() ? "a module of that stage" : known);
    }

    [[nodiscard]] bool origin_above() {
        const SpvExecutionMode* modes = nullptr;
        std::size_t count = 0;
        hold(spvc_compiler_get_execution_modes(compiler_, &modes, &count));
        for (std::size_t i = 0; i < count; ++i) {
            if (modes[i] == SpvExecutionModeOriginLowerLeft) {
                return false;
            }
        }
        return true;
    }

    struct extent {
        unsigned size, alignment; // bytes
    };
    // Places a type's members as std140 has them. HLSL packs them closer than GLSL can say; since the members
    // are fed by name, where they lie does not matter.
    extent lay_out(SpvId id) {
        const spvc_type type = spvc_compiler_get_type_handle(compiler_, id);
        const auto rounded = [](unsigned size, unsigned to) { return (size + to - 1) / to * to; };
        if (spvc_type_get_num_array_dimensions(type) > 0) {
            const extent one = lay_out(spvc_type_get_base_type_id(type));
            const unsigned stride = rounded(one.size, 16);
            spvc_compiler_set_decoration(compiler_, id, SpvDecorationArrayStride, stride);
            unsigned count = 1;
            for (unsigned i = 0; i < spvc_type_get_num_array_dimensions(type); ++i) {
                count *= std::max(1U, spvc_type_get_array_dimension(type, i));
            }
            return {stride * count, 16};
        }
        if (spvc_type_get_basetype(type) == SPVC_BASETYPE_STRUCT) {
            unsigned at = 0;
            for (unsigned i = 0; i < spvc_type_get_num_member_types(type); ++i) {
                const SpvId member = spvc_type_get_member_type(type, i);
                const extent each = lay_out(member);
                at = rounded(at, each.alignment);
                spvc_compiler_set_member_decoration(compiler_, id, i, SpvDecorationOffset, at);
                if (spvc_type_get_columns(spvc_compiler_get_type_handle(compiler_, member)) > 1) {
                    spvc_compiler_set_member_decoration(compiler_, id, i, SpvDecorationMatrixStride, 16);
                }
                at += each.size;
            }
            return {rounded(at, 16), 16};
        }
        const unsigned columns = spvc_type_get_columns(type);
        const unsigned components = spvc_type_get_vector_size(type);
        if (columns > 1) { // by rows or by columns: the larger of the two
            return {16 * std::max(columns, components), 16};
        }
        return {4 * components, components == 1 ? 4U : components == 2 ? 8U : 16U};
    }
    void lay_out_blocks() {
        spvc_resources resources = nullptr;
        hold(spvc_compiler_create_shader_resources(compiler_, &resources));
        for (const spvc_resource_type type :
             {SPVC_RESOURCE_TYPE_UNIFORM_BUFFER, SPVC_RESOURCE_TYPE_STORAGE_BUFFER}) {
            each(resources, type,
                 [&](const spvc_reflected_resource& resource) { lay_out(resource.base_type_id); });
        }
    }

    // What has no name goes by its location or binding.
    void name_the_nameless(bool vertex) {
        spvc_resources resources = nullptr;
        hold(spvc_compiler_create_shader_resources(compiler_, &resources));
        const auto name_by = [&](const spvc_reflected_resource& resource, SpvDecoration by, const char* word,
                                 bool type) {
            const SpvId id = type ? resource.base_type_id : resource.id;
            const char* const name = spvc_compiler_get_name(compiler_, id);
            if (name == nullptr || *name == '\0') {
                const unsigned number = spvc_compiler_get_decoration(compiler_, resource.id, by);
                spvc_compiler_set_name(compiler_, id, (word + std::to_string(number)).c_str());
            }
        };
        if (vertex) {
            each(resources, SPVC_RESOURCE_TYPE_STAGE_INPUT, [&](const spvc_reflected_resource& resource) {
                name_by(resource, SpvDecorationLocation, "location_", false);
            });
        }
        for (const spvc_resource_type type :
             {SPVC_RESOURCE_TYPE_UNIFORM_BUFFER, SPVC_RESOURCE_TYPE_STORAGE_BUFFER}) {
            each(resources, type, [&](const spvc_reflected_resource& resource) {
                name_by(resource, SpvDecorationBinding, vertex ? "binding_v" : "binding_f", true);
            });
        }
        for (const spvc_resource_type type :
             {SPVC_RESOURCE_TYPE_SAMPLED_IMAGE, SPVC_RESOURCE_TYPE_SEPARATE_IMAGE}) {
            each(resources, type, [&](const spvc_reflected_resource& resource) {
                name_by(resource, SpvDecorationBinding, vertex ? "binding_v" : "binding_f", false);
            });
        }
    }

    // Inputs by their semantics.
    void name_inputs(std::map<std::string, std::string>& names) {
        spvc_resources resources = nullptr;
        hold(spvc_compiler_create_shader_resources(compiler_, &resources));
        each(resources, SPVC_RESOURCE_TYPE_STAGE_INPUT, [&](const spvc_reflected_resource& resource) {
            const char* const semantic =
                spvc_compiler_get_decoration_string(compiler_, resource.id, SpvDecorationHlslSemanticGOOGLE);
            if (semantic != nullptr && *semantic != '\0') {
                const std::string name = std::string("input_") + semantic;
                spvc_compiler_set_name(compiler_, resource.id, name.c_str());
                names[name] = semantic;
            }
        });
    }

    // Blocks and push constants of these names get others, which a linked program is rid of again.
    void rename_blocks(const std::vector<std::string>& names) {
        spvc_resources resources = nullptr;
        hold(spvc_compiler_create_shader_resources(compiler_, &resources));
        const auto rename = [&](SpvId id) {
            const char* const name = spvc_compiler_get_name(compiler_, id);
            if (name != nullptr && *name != '\0') {
                spvc_compiler_set_name(compiler_, id, (name + std::string(of_fragment_stage)).c_str());
            }
        };
        for (const spvc_resource_type type :
             {SPVC_RESOURCE_TYPE_UNIFORM_BUFFER, SPVC_RESOURCE_TYPE_STORAGE_BUFFER,
              SPVC_RESOURCE_TYPE_PUSH_CONSTANT}) {
            each(resources, type, [&](const spvc_reflected_resource& resource) {
                const char* const name = spvc_compiler_get_name(compiler_, resource.base_type_id);
                if (name != nullptr && std::find(names.begin(), names.end(), name) != names.end()) {
                    rename(resource.base_type_id);
                    if (type == SPVC_RESOURCE_TYPE_PUSH_CONSTANT) { // a structure, in OpenGL
                        rename(resource.id);
                    }
                }
            });
        }
    }

    std::string source() {
        // Of textures that are asked without a sampler: how large they are, single texels.
        SpvId without_sampler = 0;
        hold(spvc_compiler_build_dummy_sampler_for_combined_images(compiler_, &without_sampler));
        hold(spvc_compiler_build_combined_image_samplers(compiler_));
        const spvc_combined_image_sampler* combined = nullptr;
        std::size_t count = 0;
        hold(spvc_compiler_get_combined_image_samplers(compiler_, &combined, &count));
        std::map<SpvId, std::string>
            names; // a separate texture goes by its own, however often it is combined
        for (std::size_t i = 0; i < count; ++i) {
            const SpvId image = combined[i].image_id;
            const auto known = names.find(image);
            const std::string name = known == names.end() ? spvc_compiler_get_name(compiler_, image)
                                                          : known->second + std::string(combined_again);
            names[image] = name;
            spvc_compiler_set_name(compiler_, image, (name + "_image").c_str());
            spvc_compiler_set_name(compiler_, combined[i].combined_id, name.c_str());
        }
        spvc_resources resources = nullptr;
        hold(spvc_compiler_create_shader_resources(compiler_, &resources));
        for (const spvc_resource_type type :
             {SPVC_RESOURCE_TYPE_UNIFORM_BUFFER, SPVC_RESOURCE_TYPE_STORAGE_BUFFER,
              SPVC_RESOURCE_TYPE_SAMPLED_IMAGE}) {
            // Bindings of several sets could collide; blocks and textures are bound by name.
            each(resources, type, [&](const spvc_reflected_resource& resource) {
                spvc_compiler_unset_decoration(compiler_, resource.id, SpvDecorationBinding);
                spvc_compiler_unset_decoration(compiler_, resource.id, SpvDecorationDescriptorSet);
            });
        }
        const char* text = nullptr;
        hold(spvc_compiler_compile(compiler_, &text));
        return text;
    }
};

// Blocks, and structures of push constants, by their names: what is declared in them.
std::map<std::string, std::string> declared_blocks(const std::string& source) {
    static const text_pattern block(R"(\b(?:uniform|buffer|struct)\s+(\w+)\s*\{([^}]*)\})");
    std::map<std::string, std::string> result;
    for (const text_pattern::match& found : block.all(source)) {
        result[found.text(1)] = found.text(2);
    }
    return result;
}

// Those that both stages declare, and not alike.
std::vector<std::string> declared_apart(const driver_sources& sources) {
    const std::map<std::string, std::string> vertex = declared_blocks(sources.vertex);
    std::vector<std::string> result;
    for (const auto& [name, members] : declared_blocks(sources.fragment)) {
        const auto other = vertex.find(name);
        if (other != vertex.end() && other->second != members) {
            result.push_back(name);
        }
    }
    return result;
}

// Both stages as the driver takes them; `make` makes the compiler of one.
template <class Make> driver_sources both_sources(const Make& make, bool& origin_above) {
    const auto vertex = make(true);
    const auto fragment = make(false);
    origin_above = fragment->origin_above();
    driver_sources result;
    result.vertex = vertex->source();
    result.fragment = fragment->source();
    if (const std::vector<std::string> apart = declared_apart(result); !apart.empty()) {
        const auto again = make(false);
        again->rename_blocks(apart);
        result.fragment = again->source();
    }
    return result;
}

} // namespace

translated_program through_spirv(const shader_program& the_program, bool as_declared) {
    translated_program result;
    const bool hlsl = the_program.language == shading_language::hlsl;
    const bool binary = the_program.language == shading_language::spirv;
    const auto make = [&](bool vertex) {
        const shader_stage& stage = vertex ? the_program.vertex : the_program.fragment;
        auto made = std::make_unique<cross_compiler>(
            binary ? words_of(stage) : to_spirv(the_program, stage, vertex), stage);
        if (binary) {
            made->enter(stage.entry, vertex);
            made->name_the_nameless(vertex);
        }
        if (hlsl && !as_declared) {
            made->lay_out_blocks();
        }
        if (hlsl && vertex) {
            made->name_inputs(result.attribute_names);
        }
        return made;
    };
    bool origin_above = true;
    result.sources = both_sources(make, origin_above);
    if (binary) {
        result.origin_above = origin_above;
        for (int i = 0; i < 32; ++i) {
            result.attribute_names["location_" + std::to_string(i)] = "location " + std::to_string(i);
        }
    }
    result.transposed_matrices = hlsl;
    return result;
}

} // namespace yurvo::inline v0_1::program

#endif
